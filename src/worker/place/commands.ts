import { decide, learn, noDecisions, saysWherePacksGo } from '@/core';
import type { PlaceCommands } from '../contract';
import type { Desk } from '../game/desk';
import type { CommandsOf } from '../game/handlers';
import { proposeWith } from '../game/placing';
import { answerQuestion, moveByHand, placeAt } from './byHand';

const title = 'Placing';

export const placeCommands: CommandsOf<PlaceCommands> = {
  'answer question': {
    title,
    run: async (desk, { layer, question, answer }) => {
      await answerQuestion(desk.open, layer, question, answer);
      if (question === 'place') await learnFrom(desk, layer);
    },
  },
  'move in pack': { title, run: ({ open }, { layer, from, to }) => moveByHand(open, layer, from, to) },
  'propose again': { title, run: ({ open }, { layer }) => proposeWith(open, layer, noDecisions) },
  'place at': {
    title,
    run: async (desk, { layer, strip, base }) => {
      await placeAt(desk.open, layer, strip, base);
      await learnFrom(desk, layer);
    },
  },
  'take file': {
    title,
    run: async ({ open }, { layer, path, takeIn }) => {
      const { pack } = await open.openPack(open.layer(layer).packId);
      await open.replaceLayer(layer, (one) => ({
        ...one,
        placement: decide(one.placement, pack.entries, path, takeIn),
      }));
    },
  },
};

/**
 * What the player's choice of a place teaches about packs like this one. A card that says how packs are placed knows
 * better.
 */
async function learnFrom({ open, keepGame }: Desk, id: string): Promise<void> {
  const { game } = open;
  if (saysWherePacksGo(game.card) && game.statements.length === 0) return;
  const layer = open.layer(id);
  const { pack } = await open.openPack(layer.packId);
  const statements = learn(game.statements, {
    entries: pack.entries,
    placement: layer.placement,
    pack: layer.name,
    gameFiles: open.picture.ownFiles,
  });
  if (statements.length !== game.statements.length || statements.some((one, i) => one !== game.statements[i]))
    await keepGame({ ...game, statements });
}
