import {
  ChevronDown,
  ChevronRight,
  FileText,
  Folder,
  Image as Picture,
  Music,
  Package,
  Settings2,
  SquareTerminal,
  Box,
} from 'lucide-react';
import { kindOf, type FileKind } from '@/core';
import { Path } from './Path';
import type { PlaceRow } from '@/worker/contract';

const ICONS: Record<FileKind, typeof FileText> = {
  picture: Picture,
  texture: Picture,
  sound: Music,
  model: Box,
  text: FileText,
  settings: Settings2,
  archive: Package,
  program: SquareTerminal,
  other: FileText,
};

/** The name of a file or folder in a tree; a folder opens and closes. */
export function TreeName({ row, onToggle }: { row: PlaceRow; onToggle(path: string): void }) {
  const indent = { paddingLeft: `${row.depth * 1.1}rem` };
  if (row.kind === 'folder')
    return (
      <span role="cell" style={indent} className="cut">
        <button type="button" className="twig" aria-expanded={row.open} onClick={() => onToggle(row.path)}>
          {row.open ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden />}
          <Folder size={15} aria-hidden />
          <Path text={row.name} />
        </button>
      </span>
    );
  const Icon = ICONS[kindOf(row.path)];
  return (
    <span role="cell" style={indent} className="cut">
      <span className="twig ps-4">
        <Icon size={15} aria-hidden className="quiet flex-shrink-0" />
        <Path text={row.name} />
      </span>
    </span>
  );
}
