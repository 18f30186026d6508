import type { Statement } from '../games/statement';
import { isLanguage } from '../names/languages';
import { baseName, quotedTarget, stemOf } from '../paths/paths';
import { from, say } from './say';
import type { Studied } from './studied';

const PART_WORDS = { time: 'a time', level: 'how grave it is', place: 'the part of the game that speaks' } as const;

export function logStatements({ logs, tree, logForm }: Studied): Statement[] {
  const found: Statement[] = [];
  const [log] = logs;
  if (log !== undefined)
    found.push(
      say(
        `log:${log}`,
        { what: 'log', file: log },
        `${quotedTarget(log)} is the game’s log${logForm ? `; before each message stands ${logForm.parts.map((part) => PART_WORDS[part]).join(', then ')}` : ''}.`,
        [
          from(
            log,
            /log/i.test(baseName(log)) ? 'Its name says so.' : 'Line for line it tells a time and what happened then.',
          ),
          ...(logForm
            ? [{ says: `“${logForm.example}”`, source: { from: 'file' as const, target: log, line: 1 } }]
            : []),
        ],
      ),
    );
  const languages = languageFolders(tree.files);
  for (const { folder, names } of languages.slice(0, 5))
    found.push(
      say(
        `languages:${folder}`,
        { what: 'languages', folder: tree.folders.get(folder) ?? folder, names: names.slice(0, 40) },
        `Languages lie in ${quotedTarget(tree.folders.get(folder) ?? folder)}: ${names.slice(0, 4).join(', ')}.`,
        [from(tree.folders.get(folder) ?? folder, 'Names that stand for languages.')],
      ),
    );
  return found;
}

/** So many languages no game speaks. */
const MOST_LANGUAGES = 80;

function languageFolders(files: Studied['tree']['files']): { folder: string; names: string[] }[] {
  const found: { folder: string; names: string[] }[] = [];
  for (const [folder, inside] of files) {
    // Folders of languages are small, and most folders are none.
    if (inside.size < 2 || inside.size > MOST_LANGUAGES) continue;
    const names = [...inside.keys()].map((name) => stemOf(name)).filter(isLanguage);
    if (names.length >= 2 && names.length * 2 >= inside.size) found.push({ folder, names: names.sort() });
  }
  return found.sort((a, b) => b.names.length - a.names.length || (a.folder < b.folder ? -1 : 1));
}
