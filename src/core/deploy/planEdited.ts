import type { OwnedTarget, Provider } from '../layers/layer';
import type { LivingTarget } from '../layers/layers';
import { decodeText } from '../settings/encoding';
import { applySettings } from '../settings/edits';
import { openSettings } from '../settings/openSettings';
import { readKept } from './vault';
import type { Workshop } from './model';
import type { Planning, Spot } from './planInput';
import { FORM_NOT_KNOWN, NOT_IN_ENCODING, describeEdits } from './planLiving';
import { orRefused, planMade } from './planMade';

/** A settings file that a layer brings whole: what it brings, with the values in it that are wanted above it. */
export async function planEdited(
  { providers }: OwnedTarget,
  { edits }: LivingTarget,
  spot: Spot,
  planning: Planning,
): Promise<void> {
  const winner = providers.at(-1);
  if (!winner) return;
  const { input, plan } = planning;
  const refuse = (why: string) => plan.refused.push({ target: spot.wanted, why });
  const dialect = input.dialectOf(spot.wanted);
  if (!dialect) return void refuse(FORM_NOT_KNOWN);
  await orRefused(spot.wanted, planning, async () => {
    const { text, encode } = decodeText(await bytesOf(winner, input.workshop));
    const { document, applied } = applySettings(openSettings(text, dialect), edits);
    const bytes = encode(document.text);
    if (!bytes) return void refuse(NOT_IN_ENCODING);
    const reason = `“${input.nameOf(winner.layer)}” brings it. ${describeEdits(applied)}`;
    await planMade({ bytes, layer: winner.layer, reason }, spot, planning);
  });
}

async function bytesOf({ made, kept, packId, file }: Provider, workshop: Workshop): Promise<Uint8Array<ArrayBuffer>> {
  if (made) return made;
  return kept ? readKept(workshop.vault, kept) : (await workshop.openPack(packId)).read(file.path);
}
