import { figure } from '../words';
import type { Finding } from '../checks/finding';
import { withoutHome, withoutPrivate } from './private';

/** What a report is made of, as plain data. */
export interface ReportInput {
  app: string;
  game: string;
  at: number;
  /** The lowest first. */
  packs: readonly {
    name: string;
    file: string;
    on: boolean;
    files: number;
    deployed: number;
    wins: number;
    loses: number;
    /** What the player noted of it: its version, where it came from, what is to be remembered. */
    version?: string | undefined;
    origin?: string | undefined;
    remember?: string | undefined;
  }[];
  overlaps: number;
  edits: readonly { file: string; path: readonly string[]; value: string | undefined; by: string }[];
  findings: readonly Finding[];
  aside: readonly { says: string; note: string }[];
  log:
    | {
        target: string;
        lines: number;
        messages: readonly { says: string; level: string; count: number; text: string }[];
      }
    | undefined;
  loaded: number | undefined;
  counted: number;
}

/** Of one cause so many are told. */
const MOST_SEEN = 20;

/** Text that Markdown shows as it is. */
const plain = (text: string): string =>
  withoutHome(text)
    .replace(/[\\`*_{}[\]<>#|]/g, '\\$&')
    .replace(/[\r\n]+/g, ' ');
const code = (text: string): string => {
  const clean = withoutHome(text).replace(/[\r\n]+/g, ' ');
  const fence = '`'.repeat(Math.max(0, ...[...clean.matchAll(/`+/g)].map(([run]) => run.length)) + 1);
  return fence.length > 1 ? `${fence} ${clean} ${fence}` : `\`${clean}\``;
};

/** A report to show to somebody who helps: Markdown, without the player's name or home folder in any path. */
export function makeReport(input: ReportInput): string {
  const { loaded, counted } = input;
  const lines = [
    `# ${plain(input.game)}`,
    '',
    `${plain(input.app)}, ${new Date(input.at).toISOString().slice(0, 16).replace('T', ' ')} UTC`,
    '',
    ...(loaded === undefined ? [] : [`The game loaded ${figure(loaded)} of ${figure(counted)} deployed files.`, '']),
    ...aboutPacks(input),
    `Targets where packs want different things: ${input.overlaps}.`,
    '',
    ...aboutEdits(input),
    ...aboutFindings(input),
    ...aboutLog(input),
  ];
  return `${lines.join('\n').trimEnd()}\n`;
}

function aboutPacks({ packs }: ReportInput): string[] {
  const noted = packs.flatMap(({ name, version, origin, remember }) => {
    const says = [version && `version ${version}`, origin && `from ${origin}`, remember].filter((one) => one);
    return says.length === 0 ? [] : [`- ${plain(name)}: ${plain(withoutPrivate(says.join('; ')))}`];
  });
  return [
    '## Packs, the lowest first',
    '',
    '| pack | download | files | in the game | on top in | covered in |',
    '| --- | --- | ---: | ---: | ---: | ---: |',
    ...packs.map(
      ({ name, file, on, files, deployed, wins, loses }) =>
        `| ${plain(name)}${on ? '' : ' (not in use)'} | ${plain(file)} | ${files} | ${deployed} | ${wins} | ${loses} |`,
    ),
    ...(noted.length > 0 ? ['', 'Noted of them:', '', ...noted] : []),
    '',
  ];
}

const orNone = (lines: readonly string[], none = 'None.'): readonly string[] => (lines.length === 0 ? [none] : lines);

function aboutEdits({ edits }: ReportInput): string[] {
  const lines = edits.map(
    ({ file, path, value, by }) =>
      `- ${code(file)}: ${code(`${path.join(' › ')} = ${value ?? '(taken out)'}`)}, ${plain(by)}`,
  );
  return ['## Edits', '', ...orNone(lines), ''];
}

function aboutFindings({ findings, aside }: ReportInput): string[] {
  const lines = findings
    .filter(({ level }) => level !== 'good')
    .flatMap(({ title, evidence, cause, seen = [] }) => [
      `- **${plain(title)}**`,
      ...(evidence === '' ? [] : [`  - seen: ${plain(evidence)}`]),
      ...seen.slice(0, MOST_SEEN).map((one) => `  - seen: ${plain(`${one.title} ${one.evidence}`)}`),
      ...(seen.length > MOST_SEEN ? [`  - seen: ${figure(seen.length - MOST_SEEN)} more`] : []),
      `  - cause: ${plain(cause)}`,
    ]);
  const harmless = aside.map(({ says, note }) => `- ${plain(says)}${note === '' ? '' : `: ${plain(note)}`}`);
  return [
    '## Findings',
    '',
    ...orNone(lines),
    '',
    ...(harmless.length > 0 ? ['## Set aside as harmless', '', ...harmless, ''] : []),
  ];
}

function aboutLog({ log }: ReportInput): string[] {
  if (!log) return [];
  const lines = log.messages
    .filter(({ level }) => level !== 'note')
    .slice(0, 60)
    .map(({ text, count }) => `- ${code(text.trim().slice(0, 300))}${count > 1 ? ` (${figure(count)} times)` : ''}`);
  const title = `## Log: ${code(log.target)}, ${figure(log.lines)} lines`;
  return [title, '', ...orNone(lines, 'No line that matters.'), ''];
}
