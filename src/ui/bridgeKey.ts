/** Where the key to the app's own server is kept: for this origin with its port, in every tab of it. */
const NAME = 'satchel-key';

/**
 * The key to the app's own server. The address that the start prints holds it behind the `#`, which no browser sends to
 * anybody; it is taken out of the address at once, so that it is in no history and no bookmark.
 */
export function takeKey(): string {
  const found = /[#&]key=([\w-]+)/.exec(location.hash)?.[1];
  if (found !== undefined) {
    localStorage.setItem(NAME, found);
    history.replaceState(history.state, '', location.pathname + location.search);
  }
  return localStorage.getItem(NAME) ?? '';
}

/**
 * Tells when there is another key: the new address was opened in this tab or in another one.
 *
 * @returns to be called at the end
 */
export function onNewKey(hear: (key: string) => void): () => void {
  const here = () => hear(takeKey());
  const elsewhere = (event: StorageEvent) => event.key === NAME && hear(event.newValue ?? '');
  addEventListener('hashchange', here);
  addEventListener('storage', elsewhere);
  return () => {
    removeEventListener('hashchange', here);
    removeEventListener('storage', elsewhere);
  };
}
