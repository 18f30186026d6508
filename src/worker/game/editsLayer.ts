import type { TargetPath, EditsLayer } from '@/core';

/** The player's own edits of one settings file. */
export const editsLayer = (file: TargetPath, edits: EditsLayer['edits'], on = true): EditsLayer => ({
  kind: 'edits',
  id: `edits:${file}`,
  name: 'Your settings',
  on,
  file,
  edits,
});
