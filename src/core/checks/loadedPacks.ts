import { baseName, nameKey, type TargetPath } from '../paths/paths';

/** What a log says of a file that it took, and what would make it trouble. */
const TAKEN =
  /\b(?:load(?:ed|ing|s)?|read(?:ing)?|open(?:ed|ing)?|found|register(?:ed|ing)?|add(?:ed|ing)?|enabled?|using|init(?:iali[sz]ed|iali[sz]ing)?|geladen|lädt|cargad[oa]|chargé)\b/i;
const TROUBLE =
  /\b(?:not|no|cannot|can['’]t|could ?n['’]t|missing|fail(?:ed|ure|s)?|error|unable|skip(?:ped|ping)?|ignored?|invalid|corrupt(?:ed)?|nicht|fehlt|fehler)\b/i;
/** So many lines are looked at, and of each so many signs. */
const MOST_LINES = 200_000;
const LONGEST = 2000;

/**
 * The packs of which a log says that a file of theirs was loaded, with the line that says so first. A bare name counts
 * where no other file has it; otherwise the folder above has to stand in the line, too.
 *
 * @param files what is deployed, with the pack that brings it; files without one are the game's own
 */
export function loadedPacks(
  text: string,
  files: Iterable<{ target: TargetPath | string; layer?: string | undefined }>,
): Map<string, { line: number; text: string }> {
  const byName = new Map<string, { tail: string; layer: string | undefined }[]>();
  for (const { target, layer } of files) {
    const key = nameKey(target);
    const name = baseName(key);
    const known = byName.get(name);
    const one = { tail: key.split('/').slice(-2).join('/'), layer };
    if (known) known.push(one);
    else byName.set(name, [one]);
  }
  const found = new Map<string, { line: number; text: string }>();
  let line = 0;
  for (const whole of text.split(/\r\n|\n|\r/, MOST_LINES)) {
    line++;
    const said = whole.slice(0, LONGEST);
    if (!TAKEN.test(said) || TROUBLE.test(said)) continue;
    const low = nameKey(said.replaceAll('\\', '/'));
    for (const [name] of low.matchAll(/[\p{L}\p{N}_@()+~-][\p{L}\p{N}_@()+ .~-]{0,80}\.[a-z]\w{0,7}/gu))
      for (const word of new Set([name, name.slice(name.lastIndexOf(' ') + 1)])) {
        const known = byName.get(word) ?? [];
        const meant = known.length === 1 ? known : known.filter(({ tail }) => low.includes(tail));
        const [only] = meant;
        if (only?.layer !== undefined && meant.length === 1 && !found.has(only.layer))
          found.set(only.layer, { line, text: said.trim().slice(0, 200) });
      }
  }
  return found;
}
