import { baseName } from '../paths/paths';
import { figure, megabytes, oneOr } from '../words';
import type { Cure } from './finding';
import type { Trouble, TroubleKind, TroubleOf } from './trouble';
import type { Names } from './wordsFor';

/** The end of a path, as far as it tells files apart. */
const short = (path: string): string => `“${path.split('/').slice(1).slice(-2).join('/')}”`;

type CureOf<Kind extends Cure['kind']> = Extract<Cure, { kind: Kind }>;

const renamed = (cure: CureOf<'move'>): string => `Rename it to ${baseName(cure.moves[0]?.to ?? '')}`;

/** What a cure is called where its trouble has no name of its own for it. */
const USUAL: { [Kind in Cure['kind']]: (cure: CureOf<Kind>, names: Names) => string } = {
  move: ({ moves }) => `Put ${short(moves[0]?.from ?? '')} there`,
  edit: ({ edit }) => `Set it to ${edit.value ?? ''}`,
  list: () => 'Add it to the list',
  'leave out': () => 'Leave this file out, so that the default shows',
  'stand-in': ({ copies }) => `Put a copy of ${short(copies[0]?.copy ?? '')} there`,
  'add file': ({ to }) => `Write a ${baseName(to)}`,
  unpack: ({ archive }) => `Unpack ${baseName(archive)}`,
  fill: () => 'Add the game’s missing texts to it',
  'take in': ({ files }, { nameOf }) => `Take it in from “${nameOf(files[0]?.layer ?? '')}”`,
  'take out': ({ layer }, { nameOf }) => `Take “${nameOf(layer)}” out`,
  deploy: () => 'Look at the plan',
  go: ({ step }) => (step === 'place' ? 'Place it' : 'Change it'),
};

type Label = string | undefined;

/** What cures are called for some kinds of trouble; undefined leaves them their usual name. */
const FOR_TROUBLE: { [Kind in TroubleKind]?: (cure: Cure, trouble: TroubleOf<Kind>) => Label } = {
  'straight-in': () => 'Give it a folder of its own',
  'add-on too deep': () => 'Move it up',
  'too deep': () => 'Move it up',
  'id inside': () => 'Move it up',
  'too high': (_, { name }) => `Move it into “${name}”`,
  'wrong id': (_, { right }) => right && `Rename the folder to ${right.id}`,
  unzipped: () => 'Place it again',
  'hides texts': namedAlone,
  'texts hidden': namedAlone,
  'refers to nothing': (cure, { near }) =>
    cure.kind === 'move' && (near?.kind === 'case' || near?.kind === 'spelling') ? renamed(cure) : undefined,
  'no such folder': (_, { near }) => (near === undefined ? 'Look at the section' : `Name “${near}”`),
  'too much memory': () => 'Turn it off',
  'fought over': (cure, { wants }) => {
    const value = cure.kind === 'edit' ? cure.edit.value : undefined;
    const last = wants.at(-1);
    const by = last?.value === value ? last : wants.find((one) => one.value === value);
    return `Keep ${value ?? ''}, for “${by?.by ?? ''}”`;
  },
  'switch off': (_, { title }) => `Turn “${title}” on`,
  warning: ({ kind }) => (kind === 'go' ? 'Look at its place' : undefined),
  'too little room': (cure, { packs }) => {
    const pack = cure.kind === 'take out' ? packs.find(({ layer }) => layer === cure.layer) : undefined;
    return pack && `Take “${pack.name}” out (${megabytes(pack.bytes)})`;
  },
  drift: (_, { drifted }) => oneOr(drifted, 'Look at it', 'Look at them'),
  capitals: (cure) => (cure.kind === 'move' ? renamed(cure) : undefined),
};

function namedAlone(cure: Cure): Label {
  return cure.kind === 'move' ? `Rename the pack’s file to ${baseName(cure.moves[0]?.to ?? '')}` : undefined;
}

/** What a cure is called on its button. */
export function cureLabel(cure: Cure, trouble: Trouble, names: Names): string {
  const own = FOR_TROUBLE[trouble.kind] as ((cure: Cure, trouble: Trouble) => Label) | undefined;
  return own?.(cure, trouble) ?? (USUAL[cure.kind] as (cure: Cure, names: Names) => string)(cure, names);
}

/** What one cure for files of several findings is called. @param all how many findings there are */
export function jointLabel(kind: 'move' | 'leave out' | 'take in' | 'stand-in', files: number, all: number): string {
  const count = files === all ? `all ${figure(all)}` : `${figure(files)} of them`;
  switch (kind) {
    case 'move':
      return `Put ${count} there`;
    case 'leave out':
      return `Leave ${count} out, so that the defaults show`;
    case 'take in':
      return `Take ${count} in`;
    case 'stand-in':
      return `Put copies there for ${count}`;
  }
}
