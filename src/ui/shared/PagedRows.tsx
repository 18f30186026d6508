'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { Failure } from '@/core';
import { failureOf, useEngine } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import type { Row, RowsQuery } from '@/worker/contract';
import { Notice } from './Notice';
import { useRowKeys } from './useRowKeys';

const PAGE = 100;
const LINE = 34;

interface PagedRowsProps<T extends Row> {
  query: RowsQuery;
  /** Widths of the columns, as in CSS grid-template-columns. */
  columns: string;
  heads: readonly ReactNode[];
  /** The cells of one row, as many as there are heads. */
  cells(row: T): ReactNode;
  label: string;
  empty: string;
}

interface Loaded {
  total: number;
  pages: Map<number, Row[]>;
}

/** The rows in sight of a list, asked for by the page and drawn where they belong. */
function useRowsInSight(query: RowsQuery) {
  const { engine, snapshot } = useEngine();
  const scroller = useRef<HTMLDivElement>(null);
  const [loaded, setLoaded] = useState<Loaded>();
  const [failed, setFailed] = useState<Failure>();
  const [tries, setTries] = useState(0);
  const key = `${snapshot?.revision} ${JSON.stringify(query)}`;
  const shown = useRef('');
  const virtual = useVirtualizer({
    count: loaded?.total ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE,
    overscan: 12,
    scrollPaddingStart: LINE,
  });
  const keys = useRowKeys(scroller, loaded?.total ?? 0, (index) => virtual.scrollToIndex(index));
  const items = virtual.getVirtualItems();
  const pages = useMemo(() => [...new Set(items.flatMap(({ index }) => Math.floor(index / PAGE)))].join(), [items]);

  useEffect(() => {
    if (!engine) return;
    let current = true;
    const isNew = shown.current !== key;
    const wanted = pages === '' ? [0] : pages.split(',').map(Number);
    const missing = isNew ? wanted : wanted.filter((page) => !loaded?.pages.has(page));
    if (missing.length === 0) return;
    void Promise.all(
      missing.map(
        async (page) => [page, await engine.ask({ ask: 'rows', query, offset: page * PAGE, limit: PAGE })] as const,
      ),
    )
      .then((found) => {
        if (!current) return;
        shown.current = key;
        setFailed(undefined);
        setLoaded((before) => ({
          total: found[0]?.[1].total ?? 0,
          pages: new Map([
            ...(isNew ? [] : (before?.pages ?? [])),
            ...found.map(([page, { rows }]) => [page, rows] as const),
          ]),
        }));
      })
      // A question that no longer fits (the pack was taken out meanwhile) is asked anew with the next picture.
      .catch((error: unknown) => current && setFailed(failureOf(error)));
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `query` is in `key`, `loaded` only says what is there
  }, [engine, key, pages, tries]);
  const rowAt = (index: number): Row | undefined => loaded?.pages.get(Math.floor(index / PAGE))?.[index % PAGE];
  const again = () => setTries(tries + 1);
  return { scroller, keys, items, height: virtual.getTotalSize(), total: loaded?.total, rowAt, failed, again };
}

/** A list of any length: only the rows in sight are asked for and drawn. */
export function PagedRows<T extends Row>({ query, columns, heads, cells, label, empty }: PagedRowsProps<T>) {
  const { scroller, keys, items, height, total, rowAt, failed, again } = useRowsInSight(query);
  return (
    <>
      {failed && (
        <Notice level="wrong" title={`This list cannot be shown now. ${failed.says}`}>
          <Button size="sm" variant="outline-primary" onClick={again}>
            Try again
          </Button>
        </Notice>
      )}
      <div
        className="rows"
        ref={scroller}
        role="table"
        aria-label={label}
        aria-rowcount={total ?? 0}
        tabIndex={0}
        {...keys}
      >
        <div className="headline" role="row" style={{ gridTemplateColumns: columns }}>
          {heads.map((head, i) => (
            <span role="columnheader" key={i}>
              {head}
            </span>
          ))}
        </div>
        {total === 0 && !failed && <p className="p-3 m-0 quiet">{empty}</p>}
        <div style={{ height, position: 'relative' }}>
          {items.map(({ index, start }) => {
            const row = rowAt(index);
            return (
              <div
                className="line"
                role="row"
                aria-rowindex={index + 1}
                tabIndex={-1}
                key={index}
                style={{ gridTemplateColumns: columns, height: LINE, transform: `translateY(${start}px)` }}
              >
                {row ? cells(row as T) : null}
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}
