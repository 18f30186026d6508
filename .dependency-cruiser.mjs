import { CORE, STEPS, WORKER } from './floors.mjs';

const core = Object.values(CORE).flat();
const inCore = (areas) => `^src/core/(${areas.join('|')})(/|\\.ts$)`;
const inWorker = (rooms) => `^src/worker/(${rooms.join('|')})(/|$)`;
const TEST = '\\.test\\.tsx?$';

const rule = (name, comment, from, to) => ({ name, comment, severity: 'error', from, to });

/** Each thing of a list that is in order may import only what stands before it. */
const upwards = (list, within, title) =>
  list
    .slice(0, -1)
    .map((here, i) =>
      rule(
        `${title}: ${[here].flat().join(', ')}`,
        'Imports run downwards only: see floors.mjs.',
        { path: within([here].flat()), pathNot: TEST },
        { path: within(list.slice(i + 1).flat()) },
      ),
    );

export default {
  forbidden: [
    rule('no circle', 'No circle of files, types included.', { pathNot: TEST }, { circular: true }),
    ...upwards(core, inCore, 'floor of the core'),
    ...upwards(WORKER, inWorker, 'floor of the worker'),
    ...STEPS.map((step) =>
      rule(
        `step: ${step}`,
        'Steps know the game and the contract, never each other.',
        { path: inWorker([step]), pathNot: TEST },
        { path: inWorker(STEPS.filter((other) => other !== step)) },
      ),
    ),
    rule(
      'contract',
      'The contract knows no other part of the worker.',
      { path: inWorker(['contract']) },
      { path: '^src/worker/', pathNot: inWorker(['contract']) },
    ),
    rule(
      'every area has a floor',
      'An area of the core that is not in floors.mjs.',
      {},
      { path: '^src/core/', pathNot: [inCore([...core, 'index'])] },
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^node_modules' },
    includeOnly: '^src/',
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
