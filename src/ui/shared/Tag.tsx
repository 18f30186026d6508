import type { Tag as TagData } from '@/worker/contract';

/** A pack's luggage tag, the same in every view. */
export function Tag({ tag, name }: { tag: TagData; name?: string }) {
  return (
    <span className={`tag tag-${tag.colour % 8}`} title={name} aria-hidden={name === undefined}>
      {tag.monogram}
    </span>
  );
}
