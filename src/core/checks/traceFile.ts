import { baseName, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { sharedMiss } from './byCause';
import type { GameAround } from './gameAround';
import type { LogMessage } from './logMessage';
import type { SharedCause, Trouble, TroubleOf } from './trouble';

/** Says that a file is there and is no good. */
const CANNOT_READ =
  /\b(?:cannot|can['’]t|could not|couldn['’]t|unable to|failed to) (?:be )?(?:read|parse|decode)\b|\b(?:corrupt(?:ed)?|unreadable|damaged|malformed|invalid|bad (?:format|header|data))\b/i;

/** What a message names, and who may be asked about it. */
export interface NamedFile {
  message: LogMessage;
  /** The path as the log writes it. */
  value: string;
  /** The folder that it is under, where the rule knows. */
  under: TargetPath | undefined;
}

/** Leads a message back to the file that it names, and to the layer that provides or lacks it. */
export function traceFile({ message, value, under }: NamedFile, around: GameAround): Trouble {
  const path = value.replaceAll('\\', '/').replace(/^\.?\/+/, '');
  const wanted = under === undefined ? around.whereNamed(path) : joinPath(under, path);
  const there = around.spellingOf(wanted);
  const line: Line = {
    id: message.rule === 'plain' ? `log:plain:${message.says}` : `log:${message.rule}:${nameKey(wanted)}`,
    level: 'wrong',
    message,
  };
  return there === undefined ? missing(wanted, line, around) : present(there, wanted, { line, value }, around);
}

type Line = Pick<TroubleOf<'missing'>, 'id' | 'level' | 'message'>;

/** What a message says, without the file that it names and without figures: messages of one sort. */
const sortOf = ({ rule, says, text }: LogMessage, value: string): string =>
  rule === 'plain' ? (says || text).replaceAll(value, '').replace(/\d+/g, '') : rule;

/** The file is there: its name has other capitals, or the game cannot use it. */
function present(
  there: TargetPath,
  wanted: TargetPath,
  { line, value }: { line: Line; value: string },
  around: GameAround,
): Trouble {
  const layer = around.layerOf(wanted);
  const sort = sortOf(line.message, value);
  if (layer === undefined)
    return {
      kind: 'own file',
      ...line,
      about: there,
      ...(line.message.level === 'warning' ? { weight: 'light' as const } : {}),
      sort,
      shared: { kind: 'own', key: `own:${sort}` },
    };
  if (there !== wanted)
    return {
      kind: 'capitals',
      ...line,
      about: there,
      layer,
      there,
      wanted,
      shared: sharedMiss({ path: there, kind: 'case', far: 0 }, wanted, layer),
    };
  return {
    kind: 'unusable',
    ...line,
    about: there,
    layer,
    there,
    sort,
    shared: { kind: 'unusable', key: `unusable:${layer}:${sort}`, layer },
  };
}

function missing(wanted: TargetPath, line: Line, around: GameAround): Trouble {
  const owner = around.ownerOf(wanted);
  const near = around.near(wanted, owner);
  const [first] = near;
  const brings = first && around.layerOf(first.path);
  const sameName = near.filter(({ path }) => nameKey(baseName(path)) === nameKey(baseName(wanted)));
  const layer = brings ?? around.folderOwnerOf(wanted);
  const { text, says } = line.message;
  const known = {
    wanted,
    owner,
    first,
    brings,
    meant: first !== undefined && sameName.length === 1 && sameName[0] === first && brings !== undefined,
    leftOut: around.leftOutOf(wanted),
    // A line that says a file cannot be read is not cured by a copy of another one.
    standIn: CANNOT_READ.test(`${text} ${says}`) ? undefined : around.standInFor(wanted),
  };
  return {
    kind: 'missing',
    ...line,
    about: first?.path ?? wanted,
    ...(layer === undefined ? {} : { layer }),
    ...known,
    shared: sharedBy(known),
  };
}

/** Files of one pack that miss by the same step, or that nobody has, have one cause. */
function sharedBy({
  wanted,
  owner,
  first,
  brings,
  leftOut,
  standIn,
}: Pick<TroubleOf<'missing'>, 'wanted' | 'owner' | 'first' | 'brings' | 'leftOut' | 'standIn'>):
  SharedCause | undefined {
  if (first) return brings === undefined ? undefined : sharedMiss(first, wanted, brings);
  if (leftOut) return { kind: 'left out', key: `left out:${leftOut.layer}`, layer: leftOut.layer };
  const folder = parentOf(wanted);
  return {
    kind: 'nobody',
    key: `nobody:${owner ?? nameKey(folder)}:${standIn === undefined ? '' : 'stand-in'}`,
    owner,
    folder,
    standIn: standIn !== undefined,
  };
}
