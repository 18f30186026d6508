/** The only door into the core: everything outside src/core imports from here. */
import { z } from 'zod';

// Zod would compile its checks with `new Function`, which the pages' content rules forbid.
z.config({ jitless: true });

export {
  ERRORS,
  PackError,
  SatchelError,
  reasonOf,
  throwIfAborted,
  toFailure,
  type ErrorCode,
  type Failure,
} from './errors';
export { countOf, figure, megabytes, oneOr, sizeOf } from './words';
export { once, onceFor } from './once';
export { inParallel, type Progress, type WorkOptions } from './progress';
export {
  readBytes,
  readsBack,
  sameStat,
  statAndHash,
  writeAndReadBack,
  type Digest,
  type FileStat,
  type Gone,
  type Folder,
  type ChangesAsked,
  type FolderChanges,
  type Hashed,
  type Room,
} from './folder';
export { crc32Of, crc32OfBlob, crc32Stream, setSha256, sha256, sha256Stream } from './hash';
export {
  baseName,
  checkPath,
  extensionOf,
  foldersAbove,
  isUnder,
  joinPath,
  nameKey,
  parentOf,
  parseTarget,
  splitTarget,
  target,
  type PackPath,
  type TargetPath,
} from './paths/paths';
export { nameProblem } from './paths/names';
export { asTargets, holdsAll, searchWords, shownPlace } from './paths/search';
export { openPack, type OpenPackOptions } from './archives/openPack';
export { packOfFiles } from './archives/loose';
export { WHOLE, withWhole } from './archives/whole';
export { LARGE, blobPasses, gatherBlob, readBlobAtOnceBy, readBlobBy, setBlobStore } from './bytes';
export type { BlobSink, RangeReader } from './bytes';
export { comingName, groupDownloads, isDownload, missingPart, type Download } from './archives/volumes';
export { inflateByStream, setInflater } from './archives/inflate';
export {
  inlineUnpacker,
  setUnpacker,
  setUnpackerWasm,
  type ArchivePart,
  type UnpackJob,
  type UnpackOutcome,
  type Unpacker,
} from './archives/unpacker';
export {
  packFormatSchema,
  packNoticeSchema,
  type Pack,
  type PackFile,
  type PackReader,
  type PackEntry,
  type PackFormat,
  type PackNotice,
} from './archives/pack';
export { TAG_COLOURS, monogram, nextColour, packName } from './archives/packNames';
export { FileTree, type TreeRow } from './archives/fileTree';
export { canBeDrawn, countKinds, kindOf, soundType, type FileKind } from './media/kinds';
export { inspectImage, type ImageInfo } from './media/inspectImage';
export { readTexture } from './media/readTexture';
export { setBasis, type BasisTranscoder } from './media/basis';
export { inspectModel, type ModelInfo } from './media/inspectModel';
export { liesAsSettings, statedFacts, textsWanted, type StatedFact } from './inspect/stated';
export { inspectPictures } from './inspect/packPictures';
export { readInstructions } from './inspect/instructions';
export { proposeSettings } from './inspect/proposeSettings';
export { asThings, nameAsked, thingAsked, type SettingProposal } from './inspect/settingProposal';
export { isSwitch, switched } from './inspect/settingsWords';
export { masterOf, switchChain, type MasterSwitch } from './inspect/masterSwitch';
export { checklistOf, openSteps, type ChecklistItem } from './inspect/checklist';
export type { PutStep } from './inspect/step';
export { readSteps } from './inspect/steps';
export { placeMap, type MapLink, type PlaceMap } from './placement/placeMap';
export { closeVersions, isNeeded } from './placement/needWarnings';
export type { Warning } from './placement/warning';
export { placementWarnings } from './placement/warnings';
export { settingsTargets, type SettingsFile } from './placement/settingsFiles';
export {
  gameCardJsonSchema,
  gameCardSchema,
  plainCard,
  saysWherePacksGo,
  type GameCard,
  type LogRule,
} from './games/card';
export { parseCard, withLogRule } from './games/parseCard';
export { neededSwitches } from './games/neededSwitches';
export { SENTENCE_FORMS, type SentenceGroup } from './games/sentenceForms';
export { idToPattern, likeToPattern } from './games/patterns';
export { blanksOf, formOf, piecesOf, saidAs, type Blank, type Piece } from './games/pieces';
export { meantBlank, shownBlank } from './games/shownBlanks';
export { cardDifference, sentenceKey, sentencesIn, tell, untell, type Sentence } from './games/sentences';
export { cardFromFolder, cardWithFolder, freeRoot, joinCards, rootTitle } from './study/fromFolder';
export { studyGame } from './study/studyGame';
export { learn, setStanding } from './study/learned';
export { saidOnCard } from './study/saidOnCard';
export { canBeAnswered, statementSchema, type Statement } from './games/statement';
export { explainPortable, locateRoots, type LocatedRoot } from './games/locate';
export { carryDecisions, compareVersions, isSamePack, isSameRelease, releaseFamily } from './placement/versions';
export { LEFT_OUT_SAYS, readMeRank } from './placed/baggage';
export type { PlacementProposal } from './placement/proposal';
export { proposeAt, proposePlacements } from './placement/propose';
export { whatCameOf, type AfterStart } from './checks/whatCameOf';
export { loadedPacks } from './checks/loadedPacks';
export type { MissedFile } from './placement/missedFile';
export type { BaseChoice } from './placement/overTree';
export type { PlacedPart, PlacementInput, Question } from './placement/context';
export type { PlacementMode } from './placement/modes';
export {
  RuleBook,
  decide,
  leftOutOf,
  moveTo,
  noDecisions,
  placeEdits,
  placeFiles,
  targetOf,
  wholeTarget,
  type MadeFile,
  type PlaceRule,
  type PlacedFile,
  type Placement,
} from './placed/placement';
export { type Layer, type OwnFile } from './layers/layer';
export { Resolver, emptyResolution, resolveLayers, type LivingTarget, type Resolution } from './layers/layers';
export { OverlapTree, standingsOf, type OverlapRow, type Standing } from './layers/overlapTree';
export type { Claimed, Tally, WinnerChange } from './layers/claim';
export { ORIGINAL, orderLayers, pick, type OrderRule, type Pick } from './layers/rules';
export { filledText } from './settings/filledText';
export { isWellFormed, openSettings } from './settings/openSettings';
export { relatedBy, type Related, type Relation } from './layers/relations';
export { proposedRules } from './layers/proposedRules';
export { DIALECTS, dialectByName, dialects, type Dialect, type DialectFacts } from './settings/dialects';
export { decodeText } from './settings/encoding';
export {
  addNumbered,
  nextNumber,
  numberedSections,
  removeNumbered,
  renumber,
  type NumberedSection,
} from './settings/numbered';
export { listItems, withItem, withoutItem } from './settings/listValues';
export {
  addSearchFolder,
  findInSearch,
  moveSearchEntry,
  searchContainers,
  searchEntries,
} from './settings/searchOrder';
export { launchOptions, launchTokens, withOption, withoutOption } from './settings/launchLine';
export { editsOfText, markLines } from './settings/asText';
export { editFates, onlySorted, type EditFate } from './deploy/afterStart';
export { aboutKey, commentAt, splitLines, type AboutKey } from './inspect/aboutKey';
export { narrowerFiles, valueInEffect } from './settings/scopes';
export { adviseOnPreload } from './settings/roomInMemory';
export { readSnippet, type SnippetPlace } from './settings/snippet';
export { checkValue, type KeyRule } from './settings/values';
export type { SettingsDocument } from './settings/document';
export { applySettings, pathId, takeBackSettings, type Edit } from './settings/edits';
export { listFolders } from './deploy/lookUp';
export { planDeployment } from './deploy/plan';
export { GameIndex } from './deploy/gameIndex';
export { PresentFiles, type Presence, type PresentRow } from './deploy/present';
export { liesIn, onlyConcerning, type RestoreScope } from './deploy/restoreScope';
export { updateEffects } from './deploy/updateEffects';
export { planAsCsv, planAsJson } from './deploy/planTable';
export { deploy, keepMade, recover, type DeployOptions, type Recovery } from './deploy/deploy';
export { stuckAnswers, type Stuck, type StuckAnswer } from './deploy/asking';
export { copyOriginals } from './deploy/plainCopies';
export { mindOriginals, minded, mindedSchema, type Minded, type Mishap } from './deploy/mindOriginals';
export { checkDeployed, takeAsOriginals, takeAsOwn } from './deploy/drift';
export { reverseDifferences, squashSteps, type Difference } from './deploy/ledger';
export {
  compareBackup,
  listBackups,
  makeBackup,
  removeBackup,
  settingsRestoration,
  type BackupComparison,
  type NamedBackup,
} from './deploy/namedBackups';
export { restore } from './deploy/restore';
export { blockMoves } from './layers/blockMoves';
export { groupSteps, type StepSum } from './deploy/groups';
export { STATE, keep as keepBytes, objectPath, readKept, readLedger, readLedgerSteps, readState } from './deploy/vault';
export { deployedByKey } from './deploy/deployedByKey';
export { crc32OfFile, hashOfFile } from './deploy/large';
export {
  layerNoteSchema,
  ledgerEntrySchema,
  planStepSchema,
  stepActions,
  targetSchema,
  type DeployedState,
  type Drift,
  type JournalStep,
  type LayerNote,
  type LedgerEntry,
  type Plan,
  type PlanStep,
  type StepAction,
  type Workshop,
} from './deploy/model';
export { fittingRules, missedFiles, readLog, readLongLog, readsByForm, type LogReading } from './checks/readLog';
export type { LogMessage } from './checks/logMessage';
export { checkBefore, textsForChecks } from './checks/beforeStart';
export { foldersIn, wrongFolder } from './checks/settingsChecks';
export { shortages } from './deploy/room';
export { knownFindings, type KnownFacts } from './checks/factFindings';
export { traceMessages } from './checks/trace';
export { foldByCause } from './checks/byCause';
export { ruleFromLine, type ChangingPart } from './checks/makeRule';
export { halve, type HalvingAnswer, type HalvingStep } from './checks/halving';
export { compareRuns, linesBefore, markOf, ofLastStart, troublesOf, type MessageChange, type Run } from './checks/runs';
export type { Finding, Fix, PresentFile } from './checks/finding';
export { countedFiles, diagnose, layersNeeding, loadedFiles, switchStates, type SwitchState } from './checks/diagnose';
export { makeReport } from './exchange/report';
export { originOf, whereFromsMark, zoneMark, type DownloadMark } from './inspect/origin';
export { isText, mergeFile, type Decision, type MergeConflict } from './merge/mergeFile';
export { mergedPack, planMerge, type MergeEntry, type MergePlan } from './merge/mergePacks';
export { computeMerge, type ComputedMerge } from './merge/computeMerge';
export { compareTexts, lineOrigins, unifiedDiff, type DiffLine } from './merge/compare';
export { mergeText } from './merge/mergeText';
export { exportBag, importBag, unpackBag } from './exchange/bag';
export { byHand } from './exchange/byHand';
export { zipFolder } from './exchange/zipFolder';
export { zipPack } from './exchange/zipPack';
export { STEPS, guide, type Guide, type GuideFacts, type StepId } from './guide';
export { changesBetween, isSame, withChanges, type Json, type JsonObject } from './setup/changes';
export { DATA_VERSION, checkVault, checkVersion } from './setup/dataVersion';
export { decisionsOf, treeOf, type Decisions } from './setup/decisions';
export { MOST_STEPS, historySchema, noHistory, noted, wentTo, type History } from './setup/history';
export {
  kitJsonSchema,
  kitWithIds,
  importKit,
  ownIn,
  packsHere,
  exportKit,
  type Kit,
  type KitPack,
  type OpenKit,
  type PackForKit,
} from './exchange/kit';
export { foldersHere, kitFolders, kitInFolders, type KitFolder } from './exchange/kitFolders';
export {
  packsOnDisk,
  readSetUp,
  writeSetUp,
  type FoundSetUp,
  type SetUpThere,
  type WrittenSetUp,
} from './setup/onDisk';
export { historyWithout, isSpare, needsOfPacks, type Need } from './setup/needs';
export { inOtherRoots } from './setup/places';
export { withFiles, withoutFiles } from './setup/waiting';
export { otherIn, playedAs, setUpSchema, wayToPlay, type SetUp, type WayToPlay } from './setup/setUp';
export { whatChanged } from './setup/said';
export {
  WRITTEN,
  emptyStack,
  packNoteSchema,
  stackSchema,
  type EditsLayer,
  type MergeLayer,
  type OwnLayer,
  type PackLayer,
  type PackNote,
  type Stack,
  type Written,
} from './setup/stack';
