import { describe, expect, it } from 'vitest';
import * as core from '@/core';

/*
 * Scripts outside the project call these (../shared/design.md, 4, and the script that measures placing), so no check
 * for what nobody uses may take them away. Each is named here as a member, so that its going is an error of types.
 */
const DOOR = {
  openPack: core.openPack,
  mergeText: core.mergeText,
  openSettings: core.openSettings,
  inspectImage: core.inspectImage,
  studyGame: core.studyGame,
  cardFromFolder: core.cardFromFolder,
  cardWithFolder: core.cardWithFolder,
  proposePlacements: core.proposePlacements,
  proposeAt: core.proposeAt,
  placeFiles: core.placeFiles,
  placeEdits: core.placeEdits,
  wholeTarget: core.wholeTarget,
  RuleBook: core.RuleBook,
  targetOf: core.targetOf,
  readSteps: core.readSteps,
  readInstructions: core.readInstructions,
  settingsTargets: core.settingsTargets,
  resolveLayers: core.resolveLayers,
  planDeployment: core.planDeployment,
  deploy: core.deploy,
  recover: core.recover,
  restore: core.restore,
  readLog: core.readLog,
  diagnose: core.diagnose,
  exportBag: core.exportBag,
  importBag: core.importBag,
  exportKit: core.exportKit,
  importKit: core.importKit,
  PackError: core.PackError,
  packOfFiles: core.packOfFiles,
  crc32Of: core.crc32Of,
  decodeText: core.decodeText,
  textsWanted: core.textsWanted,
  readMeRank: core.readMeRank,
  proposeSettings: core.proposeSettings,
};

describe('the door of the core', () => {
  it.each(Object.entries(DOOR))('has %s', (_, verb) => {
    expect(typeof verb).toBe('function');
  });
});
