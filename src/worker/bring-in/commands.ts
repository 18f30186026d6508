import { oneOr, baseName } from '@/core';
import { forgetDownloads } from '@/folders/bridge';
import type { BringInCommands } from '../contract';
import { fetchDemo } from '../game/demoGame';
import type { CommandsOf } from '../game/handlers';
import { takeDownloads } from './downloads';
import { bringIn } from './intake';
import { writeNotes } from '../game/written';
import { takePage } from './page';
import { replaceRelease } from './releases';

export const bringInCommands: CommandsOf<BringInCommands> = {
  'bring in': {
    title: ({ files }) => `Bringing in ${oneOr(files.length, `“${files[0]?.name}”`, `${files.length} files`)}`,
    canCancel: true,
    run: ({ open }, { files, password }, options) => bringIn(open, files, password, options),
  },
  'fetch from shelf': {
    title: ({ file }) => `Fetching “${file}” from the shelf`,
    canCancel: true,
    run: async ({ open }, { file, password }, options) => {
      const response = await fetchDemo(file, options.signal);
      return bringIn(open, [{ name: file, data: await response.blob() }], password, options);
    },
  },
  'take downloads': {
    title: 'Taking downloads in',
    canCancel: true,
    run: ({ open }, wanted, options) => takeDownloads(open, wanted, options),
  },
  'forget downloads': { title: 'Forgetting the downloads folder', run: () => forgetDownloads() },
  'open inside': {
    title: ({ path }) => `Opening “${path}”`,
    canCancel: true,
    run: async ({ open }, { layer, path }, options) => {
      const { pack } = await open.openPack(open.layer(layer).packId);
      const data = new Blob([await pack.read(path)]);
      return bringIn(open, [{ name: baseName(path), data }], undefined, options);
    },
  },
  'replace release': {
    title: 'Putting it in the place of the earlier one',
    run: ({ open }, { layer, earlier }) => replaceRelease(open, layer, earlier),
  },
  'tick step': {
    title: 'Ticking the step',
    run: ({ open }, { layer, step, done }) =>
      open.replaceLayer(layer, (one) => ({
        ...one,
        ticked: [...(one.ticked ?? []).filter((other) => other !== step), ...(done ? [step] : [])],
      })),
  },
  'note pack': {
    title: 'Noting it',
    run: ({ open }, { layer, notes }) => writeNotes(open, [open.layer(layer).packId], notes),
  },
  'paste page': { title: 'Reading the page', run: ({ open }, { layer, text }) => takePage(open, layer, text) },
};
