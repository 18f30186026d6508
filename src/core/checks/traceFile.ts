import { baseName, joinPath, nameKey, type TargetPath } from '../paths/paths';
import type { Finding, Fix } from './finding';
import type { GameAround } from './gameAround';
import { timesSaid, type LogMessage } from './logMessage';
import type { Near } from './nearest';
import { NEAR_SAYS } from './referenceChecks';

/** Says that a file is there and is no good. */
const CANNOT_READ =
  /\b(?:cannot|can['’]t|could not|couldn['’]t|unable to|failed to) (?:be )?(?:read|parse|decode)\b|\b(?:corrupt(?:ed)?|unreadable|damaged|malformed|invalid|bad (?:format|header|data))\b/i;

/** The end of a path, as far as it tells files apart. */
const short = (path: string): string => `“${path.split('/').slice(-2).join('/')}”`;

/** What a message names, and who may be asked about it. */
export interface NamedFile {
  message: LogMessage;
  /** The path as the log writes it. */
  value: string;
  /** The folder that it is under, where the rule knows. */
  under: string | undefined;
}

type NameOf = (layer: string) => string;

/** Leads a message back to the file that it names, and to the layer that provides or lacks it. */
export function traceFile({ message, value, under }: NamedFile, around: GameAround, nameOf: NameOf): Finding {
  const path = value.replaceAll('\\', '/').replace(/^\.?\/+/, '');
  const wanted = (under === undefined ? around.whereNamed(path) : joinPath(under, path)) as TargetPath;
  const there = around.spellingOf(wanted);
  const base = {
    id: message.rule === 'plain' ? `log:plain:${message.says}` : `log:${message.rule}:${nameKey(wanted)}`,
    level: 'wrong' as const,
    title: message.says,
    evidence: `Line ${message.first} of the log${timesSaid(message)}: ${message.text.trim().slice(0, 200)}`,
  };
  return {
    ...base,
    ...(there === undefined ? missing(wanted, message, around, nameOf) : present(there, wanted, around, nameOf)),
  };
}

type About = Pick<Finding, 'about' | 'layer' | 'cause' | 'fixes'>;

/** The file is there: its name has other capitals, or the game cannot use it. */
function present(there: TargetPath, wanted: TargetPath, around: GameAround, nameOf: NameOf): About {
  const layer = around.layerOf(wanted);
  if (layer === undefined)
    return {
      about: there,
      cause: 'It is the game’s own file. Let the game’s own program check its files.',
      fixes: [],
    };
  const takeOut: Fix = { kind: 'take out', label: `Take “${nameOf(layer)}” out`, layer };
  if (there !== wanted) {
    const moves = [{ from: there, to: wanted }];
    return {
      about: there,
      layer,
      cause: `There is ${there}: ${NEAR_SAYS.case}.`,
      fixes: [{ kind: 'move', label: `Rename it to ${baseName(wanted)}`, moves }, takeOut],
    };
  }
  return {
    about: there,
    layer,
    cause: `“${nameOf(layer)}” brings this file.`,
    fixes: [{ kind: 'leave out', label: 'Leave this file out, so that the default shows', target: there }, takeOut],
  };
}

/** What is known of a file that is not there. */
interface Missing {
  wanted: TargetPath;
  /** The nearest that is there. */
  first: Near | undefined;
  /** The pack that brings it. */
  brings: string | undefined;
  /** Exactly this name is in one pack alone: the line says where it belongs. */
  meant: boolean;
  leftOut: { layer: string; path: string } | undefined;
  standIn: TargetPath | undefined;
}

function missing(wanted: TargetPath, message: LogMessage, around: GameAround, nameOf: NameOf): About {
  const owner = around.ownerOf(wanted);
  const near = around.near(wanted, owner);
  const [first] = near;
  const brings = first && around.layerOf(first.path);
  const sameName = near.filter(({ path }) => nameKey(baseName(path)) === nameKey(baseName(wanted)));
  const known: Missing = {
    wanted,
    first,
    brings,
    meant: first !== undefined && sameName.length === 1 && sameName[0] === first && brings !== undefined,
    leftOut: around.leftOutOf(wanted),
    // A line that says a file cannot be read is not cured by a copy of another one.
    standIn: CANNOT_READ.test(`${message.text} ${message.says}`) ? undefined : around.standInFor(wanted),
  };
  return { about: first?.path ?? wanted, cause: causeOf(known, nameOf), fixes: curesOf(known, owner, nameOf) };
}

function causeOf({ wanted, first, brings, meant, leftOut, standIn }: Missing, nameOf: NameOf): string {
  if (first && brings !== undefined && meant && first.kind === 'folder')
    return `The game looks for it at ${wanted}; “${nameOf(brings)}” has it at ${first.path}. Move it there.`;
  if (first) return `There is ${first.path}: ${NEAR_SAYS[first.kind]}.`;
  if (leftOut) return `“${nameOf(leftOut.layer)}” has it, and it was left out.`;
  return standIn
    ? 'Nobody provides it. A copy of another file can stand in for it.'
    : 'Nobody provides it: no pack, and not the game itself.';
}

function curesOf(
  { wanted, first, brings, meant, leftOut, standIn }: Missing,
  owner: string | undefined,
  nameOf: NameOf,
): Fix[] {
  const fixes: Fix[] = [];
  if (first && brings !== undefined && (brings === owner || first.kind !== 'folder' || meant))
    fixes.push({
      kind: 'move',
      label: `Put ${short(first.path)} there`,
      moves: [{ from: first.path as TargetPath, to: wanted }],
    });
  if (leftOut) fixes.push({ kind: 'take in', label: `Take it in from “${nameOf(leftOut.layer)}”`, ...leftOut });
  if (standIn)
    fixes.push({ kind: 'stand-in', label: `Put a copy of ${short(standIn)} there`, copy: standIn, to: wanted });
  return fixes;
}
