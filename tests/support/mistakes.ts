import type { Finding } from '@/core';
import type { Seat } from './seat';

/** What is found wrong in the game that is open, most pressing first. */
export const wrong = (seat: Seat): Finding[] => seat.game.check.findings.filter(({ level }) => level === 'wrong');

/** Deploys, starts the stand-in, and says what is wrong then. */
export async function run(seat: Seat): Promise<Finding[]> {
  await seat.engine.change({ do: 'deploy' });
  await seat.engine.change({ do: 'trial run' });
  return wrong(seat);
}

/** Applies the first cure of a finding. */
export async function cure(seat: Seat, id: RegExp, nth = 0): Promise<Finding> {
  const finding = wrong(seat).find((one) => id.test(one.id));
  const fix = finding?.fixes[nth];
  if (!finding || !fix)
    throw new Error(
      `no cure for ${String(id)} among ${wrong(seat)
        .map((one) => one.id)
        .join(', ')}`,
    );
  await seat.engine.change({ do: 'fix', fix });
  return finding;
}

/** Turns on every switch that a pack needs. */
export const switchOn = async (seat: Seat) => {
  for (const one of seat.game.switches)
    if (one.neededBy > 0 && !one.on) await seat.engine.change({ do: 'turn on', switch: one.id });
};

/** Answers every open question of a pack as the app suggests. */
export const answerAll = async (seat: Seat) => {
  for (const { layer, placement } of seat.game.packs)
    for (const { id, options, suggested, kind, answer } of placement.questions)
      if (kind === 'one' && answer.length === 0)
        await seat.engine.change({
          do: 'answer question',
          layer,
          question: id,
          answer: suggested.length > 0 ? suggested : [options[0]?.id ?? ''],
        });
};
