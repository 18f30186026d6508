const LOCK = 'tidy-satchel';
/** Another tab that gives the lock away does so within this time (milliseconds). */
const PATIENCE = 1200;

/**
 * One tab writes. The others look, and take over when it is closed.
 *
 * @param takeOver called when the lock came later, after this tab had only looked
 * @returns whether this tab has to only look for now
 */
export function takeTurn(takeOver: () => Promise<void>): Promise<{ onlyLook: boolean }> {
  return new Promise((decided) => {
    let waited = false;
    const patience = setTimeout(() => {
      waited = true;
      decided({ onlyLook: true });
    }, PATIENCE);
    void navigator.locks.request(LOCK, async () => {
      clearTimeout(patience);
      decided({ onlyLook: false });
      if (waited) await takeOver();
      await new Promise(() => undefined);
    });
  });
}
