/** Where several layers that are moved together can go: places counted from the bottom among those that stay. */
export interface BlockMoves {
  top: number;
  up: number;
  down: number;
  bottom: number;
}

/**
 * Where marked layers go together: to an end, or over the next layer that is not one of them. Layers that lie apart
 * come together then, above what the topmost lies over (up) or below what the lowest lies under (down).
 *
 * @param order ids of all layers, the lowest first
 * @param marked ids of those that are moved, in any order
 */
export function blockMoves(order: readonly string[], marked: ReadonlySet<string>): BlockMoves {
  const stays = order.filter((id) => !marked.has(id)).length;
  /** How many of those that stay lie below a place. */
  const below = (place: number) => order.slice(0, Math.max(0, place)).filter((id) => !marked.has(id)).length;
  const isMarked = order.map((id) => marked.has(id));
  return {
    top: stays,
    up: Math.min(stays, below(isMarked.lastIndexOf(true)) + 1),
    down: Math.max(0, below(isMarked.indexOf(true)) - 1),
    bottom: 0,
  };
}
