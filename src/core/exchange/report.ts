import { figure } from '../words';
import type { Finding } from '../checks/finding';

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

/**
 * Takes the player's name and home folder out of a text: `C:\Users\ada\…`, `/home/ada/…` and `/Users/ada/…` become
 * `~/…`.
 *
 * @example withoutHome('C:\\Users\\ada\\Games') // '~\\Games'
 */
export const withoutHome = (text: string): string =>
  text
    .replace(/(?:[A-Za-z]:)?[\\/]+(?:Users|home|Documents and Settings)[\\/]+[^\\/\r\n"'`<>|:*?]+/gi, '~')
    .replace(/\/root(?=[\\/\s]|$)/g, '~');

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
  const lines: string[] = [
    `# ${plain(input.game)}`,
    '',
    `${plain(input.app)}, ${new Date(input.at).toISOString().slice(0, 16).replace('T', ' ')} UTC`,
    '',
  ];
  if (input.loaded !== undefined)
    lines.push(`The game loaded ${figure(input.loaded)} of ${figure(input.counted)} deployed files.`, '');
  lines.push(
    '## Packs, the lowest first',
    '',
    '| pack | download | files | in the game | on top in | covered in |',
    '| --- | --- | ---: | ---: | ---: | ---: |',
  );
  for (const { name, file, on, files, deployed, wins, loses } of input.packs)
    lines.push(
      `| ${plain(name)}${on ? '' : ' (not in use)'} | ${plain(file)} | ${files} | ${deployed} | ${wins} | ${loses} |`,
    );
  lines.push('', `Targets where packs want different things: ${input.overlaps}.`, '', '## Edits', '');
  lines.push(
    ...(input.edits.length === 0
      ? ['None.']
      : input.edits.map(
          ({ file, path, value, by }) =>
            `- ${code(file)}: ${code(`${path.join(' › ')} = ${value ?? '(taken out)'}`)}, ${plain(by)}`,
        )),
    '',
    '## Findings',
    '',
  );
  const findings = input.findings.filter(({ level }) => level !== 'good');
  lines.push(
    ...(findings.length === 0
      ? ['None.']
      : findings.flatMap(({ title, evidence, cause }) => [
          `- **${plain(title)}**`,
          `  - seen: ${plain(evidence)}`,
          `  - cause: ${plain(cause)}`,
        ])),
    '',
  );
  if (input.aside.length > 0)
    lines.push(
      '## Set aside as harmless',
      '',
      ...input.aside.map(({ says, note }) => `- ${plain(says)}${note === '' ? '' : `: ${plain(note)}`}`),
      '',
    );
  if (input.log) {
    lines.push(`## Log: ${code(input.log.target)}, ${figure(input.log.lines)} lines`, '');
    const shown = input.log.messages.filter(({ level }) => level !== 'note').slice(0, 60);
    lines.push(
      ...(shown.length === 0
        ? ['No line that matters.']
        : shown.map(
            ({ text, count }) => `- ${code(text.trim().slice(0, 300))}${count > 1 ? ` (${figure(count)} times)` : ''}`,
          )),
      '',
    );
  }
  return `${lines.join('\n').trimEnd()}\n`;
}
