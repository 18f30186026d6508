import { figure, oneOr } from '../words';
import type { Warning, WarningFact } from './warning';

type Sentences = Pick<Warning, 'says' | 'next'>;
type Of<Code extends WarningFact['code']> = Extract<WarningFact, { code: Code }>;

const textures = (files: number): string =>
  oneOr(files, 'One of its textures is', `${figure(files)} of its textures are`);

/** What each warning says, and what to do about it. */
const WORDS: { [Code in WarningFact['code']]: (fact: Of<Code>) => Sentences } = {
  'wrong-region': ({ id, title, region }) => ({
    says: `“${id}” is ${title} for ${region}; you do not have it, so these textures will not load.`,
    next: 'Choose your own title’s id above.',
  }),
  'unknown-id': ({ id }) => ({
    says: `“${id}” is no title id that the game card knows.`,
    next: 'Choose one of your titles’ ids above.',
  }),
  'texture-too-large': ({ files, edition, most, limit }) => ({
    says: `${textures(files)} larger than the ${edition} can read: up to ${most} pixels, where ${limit} are the limit.`,
    next: 'It can stop the game at its main menu. Look for a smaller edition of the pack, or leave these files out.',
  }),
  'texture-format': ({ files, edition, formats, reads }) => ({
    says: `${textures(files)} in a format that the ${edition} cannot read (${formats.join(', ')}).`,
    next: `It reads ${reads.join(', ')}. Look for another edition of the pack.`,
  }),
  'patch-mismatch': ({ of, wanted, base, has }) =>
    of === 'resolution'
      ? {
          says: `It is made for a resolution of ${wanted}; “${base}” has ${has}.`,
          next: 'A patch and its base must have the same resolution. Get the other one to fit.',
        }
      : {
          says: `It is made for version ${wanted}; “${base}” is ${has}.`,
          next: 'It may still work. Look out for missing or doubled things after the first start.',
        },
  'needs-pack': ({ needed }) => ({
    says: `It needs “${needed}”, which is not in your stack.`,
    next: 'Bring that pack in as well, below this one.',
  }),
  'needs-patch': ({ needed }) => ({
    says: `It is a base that needs its patch “${needed}”, which is not in your stack.`,
    next: 'Bring the patch in as well; it goes above its base.',
  }),
  'needs-contents': ({ set }) => ({
    says: `It borrows from “${set}”, which this game does not have.`,
    next: 'What it borrows will show in glaring placeholder colours until that set is installed.',
  }),
  'program-inside': ({ files, running }) => ({
    says: `There ${oneOr(files, 'is a program or script', `are ${figure(files)} programs or scripts`)} inside${running > 0 ? `, and ${oneOr(running, 'one goes', `${running} go`)} into the game` : ''}.`,
    next:
      running > 0
        ? 'The game may run it. Leave it in only if you trust where it came from.'
        : 'They stay out. The app never runs anything out of a pack.',
  }),
  'hidden-extension': ({ name }) => ({
    says: `“${name}” is not what it seems where the computer hides endings.`,
    next: 'The game will not find it under this name. Ask its maker, or leave it out.',
  }),
  'case-differs': ({ files }) => ({
    says: `${oneOr(files, 'One of its names differs', `${figure(files)} of its names differ`)} from the game’s own only in capitals or in how letters are composed.`,
    next: 'They are written under the game’s own spelling.',
  }),
  'one-file-twice': ({ files }) => ({
    says: `${oneOr(files, 'One of its files goes', `${figure(files)} of its files go`)} to a place where another file of this pack goes too.`,
    next: 'The later one is used: an optional part over the base. Leave one out if that is not meant.',
  }),
  'id-taken': ({ id, other }) => ({
    says: `Its id “${id}” is the one that “${other}” has too; the game loads only one of them.`,
    next: 'Keep one of the two, or change the id in one manifest.',
  }),
  'other-edition': ({ stated, edition }) => ({
    says: `It says that it is for ${stated.join(', ')}; you have the ${edition}.`,
    next: 'Look for an edition of the pack that fits.',
  }),
};

/** A warning with its sentences. */
export const inWords = (fact: WarningFact): Warning => ({
  code: fact.code,
  level: fact.level,
  // The table has a line for each code, and the line takes what that code says.
  ...(WORDS[fact.code] as (of: WarningFact) => Sentences)(fact),
  paths: fact.paths,
  files: fact.files,
});
