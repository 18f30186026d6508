import { nameKey, parentOf } from '../paths/paths';
import { nothing, type Ground, type Mention } from './mention';
import { isSmallWord } from './mentions';
import { folderToMake, newFolderNamed } from './newFolder';

/** With the folder that is named as a place and has to be made first, below the first root. */
export function withFolderToMake(
  mentions: readonly Mention[],
  text: string,
  next = '',
  ground: Ground,
): readonly Mention[] {
  const isKnown = (name: string) =>
    isSmallWord(nameKey(name)) || mentions.some(({ words }) => nameKey(words) === nameKey(name));
  const made = folderToMake(text, next, isKnown);
  if (!made) return mentions;
  const word = {
    text: made.name,
    key: nameKey(made.name),
    start: made.start,
    end: made.end,
    stop: true,
    quoted: false,
  };
  const place: Mention = {
    ...nothing(word, word, text),
    cue: 'into',
    newFolders: [`${ground.roots[0]?.id ?? 'game'}/${made.name}`],
    called: true,
  };
  return [...mentions, place].sort((a, b) => a.start - b.start);
}

/** “a folder called skins in X”: the place is below X, by that name. */
export function inNewFolder(text: string, mention: Mention): Mention {
  if (mention.gameFolders.length === 0) return mention;
  const name = newFolderNamed(text.slice(Math.max(0, mention.start - 80), mention.start), text.slice(mention.end));
  return name === undefined
    ? mention
    : {
        ...mention,
        gameFolders: [],
        newFolders: mention.gameFolders.map(
          (folder) => `${mention.cue === 'beside' && folder.includes('/') ? parentOf(folder) : folder}/${name}`,
        ),
        cue: mention.cue === 'beside' ? 'into' : mention.cue,
        called: true,
      };
}
