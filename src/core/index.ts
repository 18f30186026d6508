/** The only door into the core: everything outside src/core imports from here. */
import { z } from 'zod';

// Zod would compile its checks with `new Function`, which the pages' content rules forbid.
z.config({ jitless: true });

export { ERRORS, PackError, SatchelError, reasonOf, throwIfAborted, toFailure, type ErrorCode, type Failure } from './errors';
export { inParallel, type Progress, type WorkOptions } from './progress';
export { readBytes, type FileStat, type Folder } from './folder';
export { crc32OfBlob, sha256 } from './hash';
export { baseName, byPath, checkPath, extensionOf, isUnder, joinPath, nameKey, parentOf, splitTarget, target, type PackPath, type TargetPath } from './paths/paths';
export { nameProblem } from './paths/names';
export { openPack, type OpenPackOptions } from './archives/openPack';
export { packOfFiles, type LooseFile } from './archives/loose';
export { groupDownloads, volumeOf, type Download } from './archives/volumes';
export { inlineUnpacker, setUnpacker, setUnpackerWasm, type ArchivePart, type UnpackJob, type UnpackOutcome, type Unpacker } from './archives/unpacker';
export { PACK_LIMITS, type Pack, type PackEntry, type PackFormat, type PackNotice } from './archives/pack';
export { TAG_COLOURS, monogram, nextColour, packName } from './archives/names';
export { FileTree, type TreeRow } from './archives/tree';
export { canBeDrawn, countKinds, kindOf, type FileKind } from './media/kinds';
export { inspectImage, type ImageInfo } from './media/inspectImage';
export { gameCardJsonSchema, gameCardSchema, plainCard, type GameCard, type GameSwitch } from './games/card';
export { LEFT_OUT_SAYS, readMeRank, type LeftOutReason } from './placement/baggage';
export { proposeAt, proposePlacements, type BaseChoice, type PlacementProposal } from './placement/propose';
export { decide, leftOutOf, placeFiles, placementSchema, targetOf, type PlacedFile, type Placement } from './placement/placement';
export { countOverlaps, resolveLayers, sameContent, type Layer, type Resolution } from './layers/layers';
export { openSettings, type Dialect } from './settings/openSettings';
export { decodeText } from './settings/encoding';
export type { SettingsDocument, SettingsEntry } from './settings/document';
export { applySettings, takeBackSettings, type AppliedEdit, type Edit } from './settings/edits';
export { planDeployment } from './deploy/plan';
export { deploy, recover, type Recovery } from './deploy/deploy';
export { restore } from './deploy/restore';
export { readLedger, readLedgerSteps, readState } from './deploy/vault';
export { stepActions, type DeployedState, type JournalStep, type LedgerEntry, type Plan, type PlanStep, type StepAction, type Workshop } from './deploy/model';
export { readLog, type LogEvent, type LogReading } from './checks/readLog';
export { countedFiles, diagnose, loadedFiles, switchStates, type Finding, type Fix, type SwitchState } from './checks/diagnose';
export { zipFolder } from './exchange/zipFolder';
export { zipPack } from './exchange/zipPack';
export { STEPS, guide, type Guide, type GuideFacts, type StepId } from './guide';
