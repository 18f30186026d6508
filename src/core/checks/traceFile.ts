import { baseName, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { sharedMiss } from './byCause';
import type { Finding, Fix } from './finding';
import type { GameAround } from './gameAround';
import { timesSaid, type LogMessage } from './logMessage';
import type { Near } from './nearest';
import { NEAR_SAYS } from './referenceChecks';

/** Says that a file is there and is no good. */
const CANNOT_READ =
  /\b(?:cannot|can['’]t|could not|couldn['’]t|unable to|failed to) (?:be )?(?:read|parse|decode)\b|\b(?:corrupt(?:ed)?|unreadable|damaged|malformed|invalid|bad (?:format|header|data))\b/i;

/** The end of a path, as far as it tells files apart. */
const short = (path: string): string => `“${path.split('/').slice(1).slice(-2).join('/')}”`;

/** What a message names, and who may be asked about it. */
export interface NamedFile {
  message: LogMessage;
  /** The path as the log writes it. */
  value: string;
  /** The folder that it is under, where the rule knows. */
  under: TargetPath | undefined;
}

/** Leads a message back to the file that it names, and to the layer that provides or lacks it. */
export function traceFile(named: NamedFile, around: GameAround): Finding {
  const { message, value, under } = named;
  const path = value.replaceAll('\\', '/').replace(/^\.?\/+/, '');
  const wanted = under === undefined ? around.whereNamed(path) : joinPath(under, path);
  const there = around.spellingOf(wanted);
  const base = {
    id: message.rule === 'plain' ? `log:plain:${message.says}` : `log:${message.rule}:${nameKey(wanted)}`,
    level: 'wrong' as const,
    title: message.says,
    evidence: `Line ${message.first} of the log${timesSaid(message)}: ${message.text.trim().slice(0, 200)}`,
  };
  return {
    ...base,
    ...(there === undefined ? missing(wanted, message, around) : present(there, wanted, named, around)),
  };
}

type About = Pick<Finding, 'about' | 'layer' | 'weight' | 'cause' | 'fixes' | 'shared'>;

/** What a message says, without the file that it names and without figures: messages of one sort. */
const sortOf = ({ rule, says, text }: LogMessage, value: string): string =>
  rule === 'plain' ? (says || text).replaceAll(value, '').replace(/\d+/g, '') : rule;

/** The file is there: its name has other capitals, or the game cannot use it. */
function present(there: TargetPath, wanted: TargetPath, { message, value }: NamedFile, around: GameAround): About {
  const layer = around.layerOf(wanted);
  const sort = sortOf(message, value);
  if (layer === undefined)
    return {
      about: there,
      ...(message.level === 'warning' ? { weight: 'light' as const } : {}),
      cause: 'It is the game’s own file. Let the game’s own program check its files.',
      fixes: [],
      shared: {
        key: `own:${sort}`,
        title: 'The game has trouble with {n} of its own files',
        cause: 'They are the game’s own files. Let the game’s own program check them.',
      },
    };
  const name = around.nameOf(layer);
  const takeOut: Fix = { kind: 'take out', label: `Take “${name}” out`, layer };
  if (there !== wanted) {
    const moves = [{ from: there, to: wanted }];
    return {
      about: there,
      layer,
      cause: `There is ${around.shown(there)}: ${NEAR_SAYS.case}.`,
      fixes: [{ kind: 'move', label: `Rename it to ${baseName(wanted)}`, moves }, takeOut],
      shared: sharedMiss({ path: there, kind: 'case', far: 0 }, wanted, layer, { name, shown: around.shown }),
    };
  }
  return {
    about: there,
    layer,
    cause: `“${name}” brings this file.`,
    fixes: [{ kind: 'leave out', label: 'Leave this file out, so that the default shows', targets: [there] }, takeOut],
    shared: {
      key: `unusable:${layer}:${sort}`,
      title: `The game has the same trouble with {n} files of “${name}”`,
      cause: `“${name}” brings all of them.`,
    },
  };
}

/** What is known of a file that is not there. */
interface Missing {
  wanted: TargetPath;
  /** The pack whose files lie around it. */
  owner: string | undefined;
  /** The nearest that is there. */
  first: Near<TargetPath> | undefined;
  /** The pack that brings it. */
  brings: string | undefined;
  /** Exactly this name is in one pack alone: the line says where it belongs. */
  meant: boolean;
  leftOut: { layer: string; path: string } | undefined;
  standIn: TargetPath | undefined;
}

function missing(wanted: TargetPath, message: LogMessage, around: GameAround): About {
  const owner = around.ownerOf(wanted);
  const near = around.near(wanted, owner);
  const [first] = near;
  const brings = first && around.layerOf(first.path);
  const sameName = near.filter(({ path }) => nameKey(baseName(path)) === nameKey(baseName(wanted)));
  const layer = brings ?? around.folderOwnerOf(wanted);
  const known: Missing = {
    wanted,
    owner,
    first,
    brings,
    meant: first !== undefined && sameName.length === 1 && sameName[0] === first && brings !== undefined,
    leftOut: around.leftOutOf(wanted),
    // A line that says a file cannot be read is not cured by a copy of another one.
    standIn: CANNOT_READ.test(`${message.text} ${message.says}`) ? undefined : around.standInFor(wanted),
  };
  return {
    about: first?.path ?? wanted,
    ...(layer === undefined ? {} : { layer }),
    cause: causeOf(known, around),
    fixes: curesOf(known, around),
    ...sharedOf(known, around),
  };
}

function causeOf({ wanted, first, brings, meant, leftOut, standIn }: Missing, { nameOf, shown }: GameAround): string {
  if (first && brings !== undefined && meant && first.kind === 'folder')
    return `The game looks for it at ${shown(wanted)}; “${nameOf(brings)}” has it at ${shown(first.path)}. Move it there.`;
  if (first) return `There is ${shown(first.path)}: ${NEAR_SAYS[first.kind]}.`;
  if (leftOut) return `“${nameOf(leftOut.layer)}” has it, and it was left out.`;
  return standIn
    ? 'Nobody provides it. A copy of another file can stand in for it.'
    : 'Nobody provides it: no pack, and not the game itself.';
}

/** Files of one pack that miss by the same step, or that nobody has, have one cause. */
function sharedOf(
  { wanted, owner, first, brings, leftOut, standIn }: Missing,
  { nameOf, shown }: GameAround,
): Pick<Finding, 'shared'> {
  if (first) {
    const shared =
      brings === undefined ? undefined : sharedMiss(first, wanted, brings, { name: nameOf(brings), shown });
    return { shared };
  }
  if (leftOut)
    return {
      shared: {
        key: `left out:${leftOut.layer}`,
        title: `{n} files are missing that “${nameOf(leftOut.layer)}” has`,
        cause: `They were left out when “${nameOf(leftOut.layer)}” was placed.`,
      },
    };
  const where = owner === undefined ? shown(parentOf(wanted)) : `where “${nameOf(owner)}” lies`;
  return {
    shared: {
      key: `nobody:${owner ?? nameKey(parentOf(wanted))}:${standIn === undefined ? '' : 'stand-in'}`,
      title: `{n} files are missing ${owner === undefined ? `in ${where}` : where}`,
      cause: standIn
        ? 'Nobody provides them. Copies of other files can stand in for them.'
        : 'Nobody provides them: no pack, and not the game itself.',
    },
  };
}

function curesOf({ wanted, owner, first, brings, meant, leftOut, standIn }: Missing, { nameOf }: GameAround): Fix[] {
  const fixes: Fix[] = [];
  if (first && brings !== undefined && (brings === owner || first.kind !== 'folder' || meant))
    fixes.push({
      kind: 'move',
      label: `Put ${short(first.path)} there`,
      moves: [{ from: first.path, to: wanted }],
    });
  if (leftOut) fixes.push({ kind: 'take in', label: `Take it in from “${nameOf(leftOut.layer)}”`, files: [leftOut] });
  if (standIn)
    fixes.push({
      kind: 'stand-in',
      label: `Put a copy of ${short(standIn)} there`,
      copies: [{ copy: standIn, to: wanted }],
    });
  return fixes;
}
