import { layersNeeding, pathId } from '@/core';
import type { SwitchView } from '../contract';
import type { Session } from '../game/session';
import { wantedIn } from '../game/wanted';

export function switchViews(session: Session): SwitchView[] {
  const { picture } = session;
  const files = () => [
    ...[...picture.resolution.owned].map(([target, { providers }]) => ({
      target,
      layers: providers.map(({ layer }) => layer),
    })),
    ...[...picture.resolution.living].map(([target, { edits }]) => ({
      target,
      layers: edits.filter(({ kind }) => kind === 'pack').map(({ layer }) => layer),
    })),
  ];
  return picture.switches.map(({ game, value, on, neededBy }): SwitchView => {
    const wanted = wantedIn(session, game.file).get(pathId(game.path)) ?? [];
    const edited = wanted.at(-1)?.value === game.on;
    const mine = wanted.some(({ kind }) => kind === 'edits');
    return {
      id: game.id,
      title: game.title,
      file: game.file,
      path: [...game.path],
      value,
      wanted: game.on,
      on,
      edited,
      mine,
      pending: edited && !on,
      neededBy,
      packs: neededBy > 0 ? layersNeeding(game, files()) : [],
      why: game.why,
      after: game.after,
    };
  });
}
