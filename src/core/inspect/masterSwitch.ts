import { nameKey } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { isSwitch, switched } from './settingsWords';

/** A switch that others may do nothing without. */
export interface MasterSwitch {
  path: string[];
  now: string;
  /** What turns it on, in its own words. */
  value: string;
}

/** A switch that a read-me asks for. */
export interface AskedSwitch {
  file: string;
  path: string[];
  value: string;
  now: string | undefined;
  /** It is so, or will be. */
  set: boolean;
  line: number;
  /** One beside it that is off, without which it may do nothing. */
  after?: MasterSwitch;
}
/** A step of a chain; without a line nobody asked for it. */
export type ChainStep = Omit<AskedSwitch, 'line' | 'after'> & { line: number | undefined };

/**
 * What is asked for, each after what it needs, each once. What stands before one of them is asked for itself where
 * another line says so.
 */
export function switchChain(asked: readonly AskedSwitch[]): ChainStep[] {
  const chain: ChainStep[] = [];
  const same = (a: { file: string; path: readonly string[] }, b: { file: string; path: readonly string[] }) =>
    a.file === b.file && nameKey(a.path.join('\n')) === nameKey(b.path.join('\n'));
  const add = ({ file, path, value, now, set, line }: ChainStep) => {
    if (!chain.some((one) => same(one, { file, path }))) chain.push({ file, path, value, now, set, line });
  };
  for (const one of asked) {
    const { file, after } = one;
    if (after)
      add(
        asked.find((other) => same(other, { file, path: after.path })) ?? {
          file,
          ...after,
          set: false,
          line: undefined,
        },
      );
    add(one);
  }
  return chain;
}

/**
 * Names that speak of nothing in particular: they are about all that stands beside them. Common practice; German,
 * Spanish, French too.
 */
const WHOLE =
  /^(?:is|be|bool|b)?[_ -]?(?:en_?abled?|active|activated?|on|use|used|allow|allowed|master|main|all|an|aktiv|aktiviert|activo|activado|habilitado|actif|active|activé)$/i;

/**
 * A switch that stands beside another one, is off, and by its name turns on all that stands there: `Enabled=0` over
 * `LoadLoose=1`.
 *
 * @param path of the switch that is asked for
 */
export function masterOf(document: SettingsDocument, path: readonly string[]): MasterSwitch | undefined {
  const [beside, own] = [path.slice(0, -1).join('\n'), path.at(-1) ?? ''];
  // At the top of a file all kinds of things stand beside each other.
  if (path.length < 2) return undefined;
  for (const { path: at, value } of document.entries()) {
    const name = at.at(-1) ?? '';
    if (
      at.slice(0, -1).join('\n') !== beside ||
      nameKey(name) === nameKey(own) ||
      !WHOLE.test(name) ||
      !isSwitch(value)
    )
      continue;
    const on = switched(value, true);
    if (on !== undefined && nameKey(on) !== nameKey(value)) return { path: at, now: value, value: on };
  }
  return undefined;
}
