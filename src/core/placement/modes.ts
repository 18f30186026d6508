export type PlacementMode =
  'over' | 'own-folder' | 'title' | 'zipped' | 'inside' | 'loose' | 'edits' | 'converted' | 'chosen';
