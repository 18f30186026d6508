import type { ArchivePart } from '@/core';

/** Files and folders out of a drop, folders with their paths. Must be called before the event ends. */
export function droppedFiles(data: DataTransfer): Promise<ArchivePart[]> {
  const entries = [...data.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (entries.length === 0) return Promise.resolve([...data.files].map((file) => ({ name: file.name, data: file })));
  return Promise.all(entries.map(walk)).then((lists) => lists.flat());
}

async function walk(entry: FileSystemEntry): Promise<ArchivePart[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed));
    return [{ name: entry.fullPath.replace(/^\//, ''), data: file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: ArchivePart[] = [];
  // A reader gives its entries in portions, and an empty one at the end.
  for (;;) {
    const portion = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
    if (portion.length === 0) return found;
    for (const child of portion) found.push(...(await walk(child)));
  }
}

/** Files of a chosen folder, with their paths. */
export const chosenFiles = (files: FileList | null): ArchivePart[] =>
  [...(files ?? [])].map((file) => ({ name: file.webkitRelativePath || file.name, data: file }));
