import { SatchelError, aboutKey, compareTexts, editsOfText, kindOf, nameKey, parentOf, planAsCsv, planAsJson, readLog, readSnippet, type AboutKey, type BackupComparison, type DiffLine, type SnippetPlace, type TargetPath } from '@/core';
import { FarBlob } from '@/folders/farBlob';
import type { ContentFrom, FileNow, FileStory, MergePreview, PlaceMapView, PlanView, PresentView, RestoreScope, Row, RowsQuery, SettingsText } from './api';
import { overlapTree } from './overlaps';
import { previewMerge } from './packMerging';
import { placeMap } from './placeMap';
import { fileNow, presentView } from './present';
import { readSound, readText } from './reading';
import { findRows } from './rows';
import { comparisonOf, restorePlan } from './safety';
import type { Picture, Session } from './session';
import { compareAt, fileStory, pictureAt } from './story';
import { drawThumbnail } from './thumbnail';
import { futureDocument, settingsFile } from './settingsCommands';
import { searchFor } from './settingsMore';
import { planView } from './views';

/** Longer settings files (characters) are edited by key: a page that holds them as text would be slow. */
const LONGEST_TEXT = 2 * 1024 * 1024;

/** What can be asked of the open game. Nothing here changes anything. */
export abstract class Questions {
  protected abstract get open(): Session;
  private found: { key: string; picture: Picture; rows: ReturnType<typeof findRows> } | undefined;

  placeMap(id: string): Promise<PlaceMapView> {
    return placeMap(this.open, this.open.layer(id));
  }

  async previewRestore(scope: RestoreScope): Promise<PlanView> {
    return planView(this.open, await restorePlan(this.open, scope));
  }

  async compareBackup(id: string): Promise<BackupComparison[]> {
    return comparisonOf(this.open, id);
  }

  async deployedPlaces(): Promise<{ files: string[]; folders: string[] }> {
    const files = this.open.picture.state.files.map(({ target }) => target as string);
    const folders = new Set<string>();
    for (const file of files) for (let folder = parentOf(file); folder !== '' && !folders.has(folder); folder = parentOf(folder)) folders.add(folder);
    return { files: files.slice(0, 2000), folders: [...folders].sort() };
  }

  async rows(query: RowsQuery, offset: number, limit: number): Promise<{ total: number; rows: Row[] }> {
    const { picture } = this.open;
    const key = JSON.stringify(query);
    // One list is asked for piece by piece while it is looked through.
    if (this.found?.key !== key || this.found.picture !== picture) this.found = { key, picture, rows: findRows(this.open, query) };
    const all = await this.found.rows;
    return { total: all.length, rows: all.slice(offset, offset + limit).map((row) => row()) };
  }

  async fileStory(target: string): Promise<FileStory> {
    return fileStory(this.open, target as TargetPath);
  }

  async presentFiles(): Promise<PresentView> {
    return presentView(this.open);
  }

  async fileNow(target: string): Promise<FileNow> {
    return fileNow(this.open, target as TargetPath);
  }

  async pictureAt(target: string, from: ContentFrom): Promise<Blob | undefined> {
    return pictureAt(this.open, target as TargetPath, from);
  }

  async compareAt(target: string, a: ContentFrom, b: ContentFrom): Promise<DiffLine[]> {
    return compareAt(this.open, target as TargetPath, a, b);
  }

  async previewMerge(layers: string[], container?: string): Promise<MergePreview> {
    return previewMerge(this.open, layers, container);
  }

  async overlapFolders(): Promise<string[]> {
    return overlapTree(this.open, false).firstFolders();
  }

  async exportPack(id: string): Promise<{ name: string; blob: Blob }> {
    const layer = this.open.layer(id);
    const found = await this.open.archive(layer.packId);
    const blob = found instanceof FarBlob ? await found.here() : found;
    if (!blob) throw new SatchelError('source-missing', { name: layer.name, path: layer.name });
    return { name: `${layer.name.replace(/[<>:"/\\|?*]+/g, ' ')}.zip`, blob };
  }

  async gameFolders(): Promise<string[]> {
    const folders = new Set(this.open.game.card.roots.map(({ id }) => id));
    for (const file of this.open.picture.ownFiles) for (let folder = parentOf(file); folder !== '' && !folders.has(folder); folder = parentOf(folder)) folders.add(folder);
    return [...folders].sort();
  }

  async gameFiles(): Promise<string[]> {
    return this.open.picture.ownFiles.filter((file) => ['settings', 'text', 'other'].includes(kindOf(file))).sort().slice(0, 2000);
  }

  async packFolders(id: string): Promise<string[]> {
    const { pack } = await this.open.openPack(this.open.layer(id).packId);
    const folders = new Set<string>(['']);
    for (const { path } of pack.entries) for (let folder = parentOf(path); !folders.has(folder); folder = parentOf(folder)) folders.add(folder);
    return [...folders].sort();
  }

  async readText(id: string, path: string): Promise<string> {
    return readText(this.open, id, path);
  }

  async readSound(id: string, path: string): Promise<Blob> {
    return readSound(this.open, id, path);
  }

  async thumbnail(id: string, path: string): Promise<Blob | undefined> {
    const { pack } = await this.open.openPack(this.open.layer(id).packId);
    return drawThumbnail(pack, path);
  }

  async readSnippet(text: string): Promise<SnippetPlace[]> {
    const { settings, settingsFiles } = this.open.picture;
    const files = settingsFiles.flatMap(({ target, dialect }) => {
      const document = settings.get(target);
      return document ? [{ target: target, dialect, document }] : [];
    });
    return readSnippet(text, files).map((place) => ({ ...place, lines: place.lines.slice(0, 2000) }));
  }

  async aboutKey(file: string, path: string[]): Promise<AboutKey> {
    const readMes = await Promise.all(this.open.packLayers().map(async ({ packId, name }) => ({ pack: name, text: (await this.open.openPack(packId)).readMe?.text ?? '' })));
    return aboutKey({ file, path }, this.open.picture.settings, readMes);
  }

  async settingsText(file: string): Promise<SettingsText> {
    const { keys } = settingsFile(this.open, file);
    const { text } = futureDocument(this.open, file);
    const tooLong = text.length > LONGEST_TEXT;
    return { text: tooLong ? '' : text, tooLong, known: keys.map(({ path, type, min, max, options }) => [nameKey(path.join('\n')), { type, min, max, options }]) };
  }

  async previewText(file: string, text: string): Promise<{ edits: number; lines: DiffLine[]; other: boolean }> {
    const { dialect } = settingsFile(this.open, file);
    const before = futureDocument(this.open, file);
    const change = editsOfText(before, text, dialect);
    return { edits: change.edits.length, lines: compareTexts(before.text, change.text), other: change.other };
  }

  /** How many lines of the game's log a rule would know. */
  async testRule(pattern: string): Promise<number> {
    const text = this.open.picture.log?.text ?? '';
    return readLog(text, [{ id: 'trial', pattern, level: 'note', says: 'x' }]).messages.reduce((sum, { count }) => sum + count, 0);
  }

  async findInSearch(file: string, name: string): Promise<{ folder: string; file: string }[]> {
    return searchFor(this.open, settingsFile(this.open, file), name);
  }

  async exportPlan(form: 'csv' | 'json'): Promise<string> {
    const { picture, nameOf } = this.open;
    return form === 'csv' ? planAsCsv(picture.plan, nameOf) : planAsJson(picture.plan, nameOf);
  }
}
