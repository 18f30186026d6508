import type { GameSwitch } from './card';

/** A switch of a card and those without which it does nothing, the outermost first. */
export function neededSwitches(switches: readonly GameSwitch[], id: string): GameSwitch[] {
  const chain: GameSwitch[] = [];
  const of = (wanted: string | undefined) => switches.find((one) => one.id === wanted);
  for (let at = of(id); at && !chain.includes(at); at = of(at.after)) chain.unshift(at);
  return chain;
}
