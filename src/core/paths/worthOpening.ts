/** Rows that a tree has at first: about what a window shows. */
const FIRST_ROWS = 24;

/**
 * The folders of a tree to open at first: down to the first with more than one thing in it, however many, and from
 * there those that matter, the upper ones first, as long as all rows together fit a window.
 */
export function worthOpening<Branch extends { path: string; folders: Branch[]; leaves: unknown[] }>(
  root: Branch,
  matters: (branch: Branch) => boolean,
): string[] {
  const open: string[] = [];
  let at = root;
  while (at.folders.length === 1 && at.leaves.length === 0) {
    at = at.folders[0] as Branch;
    open.push(at.path);
  }
  let rows = open.length + at.folders.length + at.leaves.length;
  for (let level = at.folders.filter(matters); level.length > 0;) {
    const next: Branch[] = [];
    for (const branch of level) {
      const more = branch.folders.length + branch.leaves.length;
      if (rows + more > FIRST_ROWS) continue;
      rows += more;
      open.push(branch.path);
      next.push(...branch.folders.filter(matters));
    }
    level = next;
  }
  return open;
}
