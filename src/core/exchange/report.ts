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
  const noted = input.packs.flatMap(({ name, version, origin, remember }) => {
    const says = [version && `version ${version}`, origin && `from ${origin}`, remember].filter((one) => one);
    return says.length === 0 ? [] : [`- ${plain(name)}: ${plain(withoutPrivate(says.join('; ')))}`];
  });
  if (noted.length > 0) lines.push('', 'Noted of them:', '', ...noted);
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
      : findings.flatMap(({ title, evidence, cause, seen = [] }) => [
          `- **${plain(title)}**`,
          ...(evidence === '' ? [] : [`  - seen: ${plain(evidence)}`]),
          ...seen.slice(0, MOST_SEEN).map((one) => `  - seen: ${plain(`${one.title} ${one.evidence}`)}`),
          ...(seen.length > MOST_SEEN ? [`  - seen: ${figure(seen.length - MOST_SEEN)} more`] : []),
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
