import type { FileStat } from '../folder';
import { sha256 } from '../hash';
import type { LivingTarget } from '../layers/layers';
import type { Dialect } from '../settings/dialects';
import type { SettingsDocument } from '../settings/document';
import { applySettings, pathId, takeBackSettings, type AppliedEdit, type Edit } from '../settings/edits';
import { decodeText, type DecodedText } from '../settings/encoding';
import { openSettings } from '../settings/openSettings';
import { bytesOf, readBytesOf } from './lookUp';
import type { Content, DeployedFile, KeptOrAbsent, PlanStep } from './model';
import type { PlanInput, Planning, Spot } from './planInput';
import type { TargetPath } from '../paths/paths';

export const FORM_NOT_KNOWN = 'the form of this file is not known';
export const NOT_IN_ENCODING = 'a value holds characters that this file’s encoding does not have';

/** Edits go onto the file as it is now; what others changed in it since stays. */
export async function planLiving(living: LivingTarget | undefined, spot: Spot, planning: Planning): Promise<void> {
  const { input, actual, plan } = planning;
  const { key, record } = spot;
  const now = actual.files.get(key);
  const wanted = now?.target ?? actual.spell(spot.wanted);
  const edits = living?.edits ?? [];
  const dialect = input.dialectOf(wanted);
  if (!dialect) return void plan.refused.push({ target: wanted, why: FORM_NOT_KNOWN });

  const current = now ? await readBytesOf(input.workshop, wanted) : new Uint8Array(0);
  const ground = await groundOf({ record, current, isThere: now !== undefined, dialect }, input);
  if (now && standsAsDeployed(record, edits, ground)) return void plan.unchanged++;
  const { base, left } = withoutDeployed(ground, record);
  plan.leftAlone.push(...left.map(({ path }) => ({ target: wanted, path })));
  const made = onto(base, edits, ground);
  if (!made) return void plan.refused.push({ target: wanted, why: NOT_IN_ENCODING });

  const after = await contentAfter(made.bytes, edits.length === 0 && wasMade(record));
  if (await isAsNow(after, now && current)) {
    if (edits.length === 0 && record) plan.forget.push(record.target);
    else plan.unchanged++;
    return;
  }
  plan.steps.push(await stepOf(made, { edits, ground, after, now, target: wanted, record }));
}

/** The game had no such file. */
const wasMade = (record: DeployedFile | undefined): boolean => record?.original.kind === 'absent';

/** Every deployed edit stands, and no other is wanted. */
const standsAsDeployed = (record: DeployedFile | undefined, edits: LivingTarget['edits'], ground: Ground): boolean =>
  record?.living !== undefined && !ground.untouched && allStand(record.living.edits, edits, ground.document);

/** A file that edits go into, before and after. */
interface Change {
  target: TargetPath;
  edits: LivingTarget['edits'];
  ground: Ground;
  after: KeptOrAbsent;
  now: FileStat | undefined;
  record: DeployedFile | undefined;
}

async function stepOf(made: Made, { target, edits, ground, after, now, record }: Change): Promise<PlanStep> {
  return {
    ...(await change(made, edits, ground, after)),
    action: after.kind === 'absent' ? 'remove' : 'edit',
    target,
    layer: edits.at(-1)?.layer ?? record?.layer ?? '',
    size: made.bytes.length,
    before: now && { size: now.size, modified: now.modified },
    after,
  };
}

/** A text with edits in it, as bytes. */
interface Made {
  bytes: Uint8Array<ArrayBuffer>;
  baseBytes: Uint8Array<ArrayBuffer>;
  applied: AppliedEdit[];
}

/** Undefined where the file's encoding does not have what the edits hold. */
function onto(base: SettingsDocument, edits: LivingTarget['edits'], { encode }: Ground): Made | undefined {
  const { document, applied } = applySettings(base, edits);
  const [bytes, baseBytes] = [encode(document.text), encode(base.text)];
  return bytes && baseBytes && { bytes, baseBytes, applied };
}

/** @param canGo the app made the file, and nothing is wanted in it any more */
const contentAfter = async (bytes: Uint8Array<ArrayBuffer>, canGo: boolean): Promise<KeptOrAbsent> =>
  canGo && bytes.length === 0 ? { kind: 'absent' } : { kind: 'kept', sha256: await sha256(bytes), size: bytes.length };

/** @param current undefined where there is no file */
const isAsNow = async (after: KeptOrAbsent, current: Uint8Array<ArrayBuffer> | undefined): Promise<boolean> =>
  after.kind === 'absent' ? current === undefined : current !== undefined && after.sha256 === (await sha256(current));

/** What a step does to the text, and what is to be remembered of it. */
async function change(
  { bytes, baseBytes, applied }: Made,
  edits: LivingTarget['edits'],
  { kept }: Ground,
  after: Content,
): Promise<Pick<PlanStep, 'reason' | 'made'>> {
  const reason = 'The edits in it are taken back.';
  if (after.kind === 'absent') return { reason };
  if (edits.length === 0) return { reason, made: { bytes, base: baseBytes, forget: true } };
  const tagged = applied.map((edit, i) => ({ ...edit, layer: edits[i]?.layer ?? '', kind: edits[i]?.kind ?? 'pack' }));
  const living = { edits: tagged, base: kept ?? (await keptOf(baseBytes)) };
  return { reason: describeEdits(tagged), made: { bytes, base: baseBytes, living } };
}

const keptOf = async (bytes: Uint8Array<ArrayBuffer>): Promise<KeptOrAbsent> => ({
  kind: 'kept',
  sha256: await sha256(bytes),
  size: bytes.length,
});

/** The text that edits go onto. */
interface Ground {
  /** The file is as it was deployed. */
  untouched: boolean;
  /** What was there before the deployed edits, or, where somebody wrote to the file since, the file as it is. */
  document: SettingsDocument;
  encode: DecodedText['encode'];
  /** The vault has it already, or there was none. */
  kept: KeptOrAbsent | undefined;
}

async function groundOf(
  file: { record: DeployedFile | undefined; current: Uint8Array<ArrayBuffer>; isThere: boolean; dialect: Dialect },
  { workshop }: PlanInput,
): Promise<Ground> {
  const { record, current, isThere, dialect } = file;
  // A pack that brought it whole brings it no more: the edits go onto the game's own.
  if (record && !record.living) {
    const { text, encode } = decodeText(await bytesOf(workshop, record.original));
    return { untouched: false, document: openSettings(text, dialect), encode, kept: record.original };
  }
  const untouched = record !== undefined && isThere && (await sha256(current)) === record.sha256;
  const before = untouched && record.living ? await bytesOf(workshop, record.living.base) : current;
  const { text, encode } = decodeText(before);
  const kept: KeptOrAbsent | undefined =
    !record && !isThere ? { kind: 'absent' } : untouched ? record.living?.base : undefined;
  return { untouched, document: openSettings(text, dialect), encode, kept };
}

/** The game has written the file since, and every edit still stands: there is nothing to do. */
const allStand = (deployed: readonly AppliedEdit[], wanted: readonly Edit[], document: SettingsDocument): boolean =>
  wanted.length === deployed.length &&
  deployed.every((one, i) => {
    const other = wanted[i];
    const same = one.value === other?.value && other !== undefined && pathId(one.path) === pathId(other.path);
    return same && document.get(one.path) === one.value;
  });

/** The ground without the deployed edits, where they are still in it, and those that somebody else changed. */
function withoutDeployed(
  { untouched, document }: Ground,
  record: DeployedFile | undefined,
): { base: SettingsDocument; left: AppliedEdit[] } {
  if (!record?.living || untouched) return { base: document, left: [] };
  const back = takeBackSettings(document, record.living.edits);
  return { base: back.document, left: back.left };
}

/** What edits change, as a sentence. */
export const describeEdits = (edits: { path: string[]; value?: string; before?: string }[]): string =>
  edits
    .filter((edit) => edit.before !== edit.value)
    .map(({ path, value, before }) =>
      value === undefined
        ? `${path.join(' › ')} is removed`
        : before === undefined
          ? value === ''
            ? `“${path.join(' › ')}” is a new line`
            : `${path.join(' › ')} is new: ${value}`
          : `${path.join(' › ')}: ${before} becomes ${value}`,
    )
    .join('; ') + '. The rest of the file stays as it is.';
