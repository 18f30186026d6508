'use client';

import { useLayoutEffect, useRef, useState, type RefObject } from 'react';
import type { MapLink, PlaceMap } from '@/core';

interface Curve {
  key: string;
  d: string;
  kind: MapLink['as'] | 'moved';
}

/** From the folder of the pack to the folder of the game, where both are drawn. */
function curveOf(link: MapLink, field: HTMLElement): Curve | undefined {
  const box = field.getBoundingClientRect();
  const end = (side: 'from' | 'to', value: string) =>
    field.querySelector(`[data-${side}="${CSS.escape(value)}"]`)?.getBoundingClientRect();
  const [a, b] = [end('from', link.from), end('to', link.to)];
  if (!a || !b) return undefined;
  const [x1, y1, x2, y2] = [
    a.right - box.left,
    a.top + a.height / 2 - box.top,
    b.left - box.left,
    b.top + b.height / 2 - box.top,
  ];
  const bend = Math.max(20, (x2 - x1) / 2);
  return {
    key: `${link.from}\n${link.to}`,
    d: `M ${x1} ${y1} C ${x1 + bend} ${y1}, ${x2 - bend} ${y2}, ${x2} ${y2}`,
    kind: link.moved ? 'moved' : link.as,
  };
}

/** The lines between the sides, drawn anew when what they join moves. */
export function useCurves(
  map: PlaceMap | undefined,
  drawn: string,
): { field: RefObject<HTMLDivElement | null>; curves: Curve[] } {
  const [curves, setCurves] = useState<Curve[]>([]);
  const field = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const draw = () => {
      const here = field.current;
      if (here && map) setCurves(map.links.flatMap((link) => curveOf(link, here) ?? []));
    };
    draw();
    const observer = new ResizeObserver(draw);
    if (field.current) observer.observe(field.current);
    return () => observer.disconnect();
  }, [map, drawn]);
  return { field, curves };
}

export function Curves({ curves }: { curves: readonly Curve[] }) {
  return (
    <svg aria-hidden>
      {curves.map(({ key, d, kind }) => (
        <path key={key} d={d} className={`line-${kind}`} />
      ))}
    </svg>
  );
}
