/** What stands beside the stack. */
export type StackView =
  | { kind: 'picture' }
  | { kind: 'file'; target: string }
  | { kind: 'pack'; layer: string }
  | { kind: 'merge'; id: string }
  | { kind: 'combine' }
  | { kind: 'rules' };

/** It as it stands in the address, and out of it: a file or a merge that is not there any more is the picture. */
export const toAddress = (view: StackView): Record<string, string> => {
  if (view.kind === 'picture') return {};
  if (view.kind === 'file') return { file: view.target };
  if (view.kind === 'pack') return { pack: view.layer };
  if (view.kind === 'merge') return { merge: view.id };
  return { show: view.kind };
};

export function fromAddress(at: (name: string) => string | undefined): StackView {
  const [file, pack, merge, show] = ['file', 'pack', 'merge', 'show'].map(at);
  if (file) return { kind: 'file', target: file };
  if (pack) return { kind: 'pack', layer: pack };
  if (merge) return { kind: 'merge', id: merge };
  return show === 'rules' || show === 'combine' ? { kind: show } : { kind: 'picture' };
}
