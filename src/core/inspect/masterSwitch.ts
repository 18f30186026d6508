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

/** Names that speak of nothing in particular: they are about all that stands beside them. Common practice; German, Spanish, French too. */
const WHOLE = /^(?:is|be|bool|b)?[_ -]?(?:en_?abled?|active|activated?|on|use|used|allow|allowed|master|main|all|an|aktiv|aktiviert|activo|activado|habilitado|actif|active|activé)$/i;

/**
 * A switch that stands beside another one, is off, and by its name turns on all that stands there: `Enabled=0` over `LoadLoose=1`.
 *
 * @param path of the switch that is asked for
 */
export function masterOf(document: SettingsDocument, path: readonly string[]): MasterSwitch | undefined {
  const [beside, own] = [path.slice(0, -1).join('\n'), path.at(-1) ?? ''];
  // At the top of a file all kinds of things stand beside each other.
  if (path.length < 2) return undefined;
  for (const { path: at, value } of document.entries()) {
    const name = at.at(-1) ?? '';
    if (at.slice(0, -1).join('\n') !== beside || nameKey(name) === nameKey(own) || !WHOLE.test(name) || !isSwitch(value)) continue;
    const on = switched(value, true);
    if (on !== undefined && nameKey(on) !== nameKey(value)) return { path: at, now: value, value: on };
  }
  return undefined;
}
