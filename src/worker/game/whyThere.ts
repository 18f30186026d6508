import type { Session } from './session';

/** Why a root is where it is, where that needs saying. */
export function whyThere(session: Session, root: string): string | undefined {
  const located = session.located.find((one) => one.root === root);
  return located?.outside === undefined
    ? located?.why
    : `${located.why} It is “${located.outside}”, outside the folders that this app was given.`;
}
