/** What stands beside the stack. */
export type StackView =
  | { kind: 'picture' }
  | { kind: 'file'; target: string }
  | { kind: 'pack'; layer: string }
  | { kind: 'merge'; id: string }
  | { kind: 'combine' }
  | { kind: 'rules' };
