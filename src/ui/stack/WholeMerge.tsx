'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import type { Failure } from '@/core';
import { failureOf, useEngine, useGame } from '@/ui/engine';
import { many } from '@/ui/shared/format';
import { FailureNotice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import type { MergedLine, MergeView } from '@/worker/contract';

/** Pixels of a line, as in the styles. */
const LINE = 28;
/** Longer lines are cut for showing; the file keeps them. */
const LONGEST = 400;

/** The merged file as a whole: beside each line the packs that it comes from. */
export function WholeMerge({ merge }: { merge: MergeView }) {
  const { engine, snapshot } = useEngine();
  const [open, setOpen] = useState(false);
  const [found, setFound] = useState<{ lines: MergedLine[]; total: number }>();
  const [failed, setFailed] = useState<Failure>();
  const revision = snapshot?.revision;
  useEffect(() => {
    if (!open) return undefined;
    let current = true;
    void engine?.ask({ ask: 'merged lines', merge: merge.id }).then(
      (lines) => current && setFound(lines),
      (error: unknown) => current && setFailed(failureOf(error)),
    );
    return () => {
      current = false;
    };
  }, [engine, merge.id, revision, open]);
  return (
    <details onToggle={({ currentTarget }) => setOpen(currentTarget.open)}>
      <summary>
        <h3 className="d-inline h6">The whole file, each line with where it comes from</h3>
      </summary>
      {failed && <FailureNotice failure={failed} />}
      {open && found && (
        <>
          <p className="small quiet m-0">
            {many(found.total, 'line')}. What bears no tag is the game’s own.
            {merge.open > 0 && ' What waits for a decision is the higher pack’s here.'}
            {found.total > found.lines.length && ` The first ${many(found.lines.length, 'line')} are shown.`}
          </p>
          <Lines lines={found.lines} sources={merge.sources} />
        </>
      )}
    </details>
  );
}

function Lines({ lines, sources }: { lines: readonly MergedLine[]; sources: MergeView['sources'] }) {
  const { packs } = useGame();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE,
    overscan: 20,
  });
  const tags = new Map(packs.map(({ layer, tag }) => [layer, tag]));
  return (
    <div
      className="whole"
      style={{ height: virtual.getTotalSize() + 2 }}
      ref={scroller}
      role="region"
      aria-label="The whole file"
      tabIndex={0}
    >
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const line = lines[index] as MergedLine;
          const from = sources.filter(({ layer }) => line.from.includes(layer));
          return (
            <div key={index} className="whole-line" style={{ transform: `translateY(${start}px)` }}>
              <span className="whole-from">
                {from.map(({ layer, name }) => {
                  const tag = tags.get(layer);
                  return tag && <Tag key={layer} tag={tag} name={name} />;
                })}
                {line.whose === 'player' && line.text.trim() !== '' && (
                  <span className="small quiet" title="Written by hand, or put together out of several">
                    yours
                  </span>
                )}
              </span>
              <code>{line.text.slice(0, LONGEST)}</code>
            </div>
          );
        })}
      </div>
    </div>
  );
}
