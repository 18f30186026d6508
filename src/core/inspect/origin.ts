/** Where a download came from, as the system or the browser noted it beside the file. */
export interface DownloadMark {
  /** The page that it was offered on. */
  page?: string | undefined;
  /** The file itself. */
  file?: string | undefined;
}

/** More of an address is not kept, in characters. */
const LONGEST = 2000;

/** An address of the web that can be kept; undefined for anything else. */
function webAddress(text: string | undefined): URL | undefined {
  const trimmed = text?.trim() ?? '';
  if (trimmed.length > LONGEST || !URL.canParse(trimmed)) return undefined;
  const url = new URL(trimmed);
  return ['http:', 'https:'].includes(url.protocol) ? url : undefined;
}

/** The address that says most about where a download came from: its page, unless only the site is known of that. */
export function originOf({ page, file }: DownloadMark): string | undefined {
  const [on, at] = [webAddress(page), webAddress(file)];
  const isSiteOnly = on?.pathname === '/' && on.search === '';
  return (on && !(isSiteOnly && at) ? on : at)?.toString();
}

/**
 * The mark that Windows leaves in a stream of its own beside a download, `Zone.Identifier` ([MS-FSCC] 5.6.1): lines of
 * an INI file.
 */
export function zoneMark(text: string): DownloadMark {
  const value = (name: string) => new RegExp(`^${name}=(.*)$`, 'im').exec(text)?.[1];
  return { page: value('ReferrerUrl'), file: value('HostUrl') };
}

/**
 * The mark of macOS, `kMDItemWhereFroms`, as `mdls -raw` prints it: a list in brackets, each in quotation marks, the
 * file first and its page second.
 */
export function whereFromsMark(text: string): DownloadMark {
  const [file, page] = Array.from(text.matchAll(/"((?:[^"\\]|\\.)*)"/g), ([, one = '']) => one.replace(/\\(.)/g, '$1'));
  return { file, page };
}
