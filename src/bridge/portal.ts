import { fileURLToPath } from 'node:url';
import { Message, Variant, sessionBus, type MessageBus } from '@jellybrick/dbus-next';
import { SatchelError, reasonOf } from '@/core';

/*
 * The folder dialog that Linux desktops show for programs which bring none. Source: XDG Desktop Portal,
 * org.freedesktop.portal.FileChooser and .Request.
 */

const PORTAL = { destination: 'org.freedesktop.portal.Desktop', path: '/org/freedesktop/portal/desktop' };
/** From this version on it can ask for folders. */
const FOLDERS = 3;
/** A desktop that has one answers in this time (milliseconds): it may have to start it. */
const PATIENCE = 5000;

/** How a request ended, as the portal counts it. */
const [CHOSEN, CANCELLED] = [0, 1];

async function hasPortal(bus: MessageBus): Promise<boolean> {
  let timer: NodeJS.Timeout | undefined;
  try {
    const late = new Promise<undefined>((done) => (timer = setTimeout(() => done(undefined), PATIENCE)));
    const answer = await Promise.race([
      late,
      bus.call(
        new Message({
          ...PORTAL,
          interface: 'org.freedesktop.DBus.Properties',
          member: 'Get',
          signature: 'ss',
          body: ['org.freedesktop.portal.FileChooser', 'version'],
        }),
      ),
    ]);
    const [version] = (answer?.body ?? []) as [Variant?];
    return typeof version?.value === 'number' && version.value >= FOLDERS;
  } catch {
    // There is no such service on this desktop.
    return false;
  } finally {
    clearTimeout(timer);
  }
}

/**
 * Asks for a folder by the desktop's portal.
 *
 * @param near the folder that it begins in
 * @returns an absolute path; undefined where the user changed their mind
 * @throws SatchelError `no-dialog` where this desktop has none or it fails, `cancelled`
 */
export async function askPortal(near: string, title: string, signal: AbortSignal): Promise<string | undefined> {
  const none = (why: string, cause?: unknown) => new SatchelError('no-dialog', { why }, { cause });
  if (!process.env.DBUS_SESSION_BUS_ADDRESS) throw none('none of its programs for that was found');
  let bus: MessageBus | undefined;
  try {
    const open = sessionBus();
    bus = open;
    const broken = new Promise<never>((_, failed) =>
      open.once('error' as never, ((error: unknown) => failed(none(reasonOf(error), error))) as never),
    );
    const stopped = new Promise<never>((_, failed) =>
      signal.addEventListener('abort', () => failed(new SatchelError('cancelled')), { once: true }),
    );
    // Whoever of them comes too late is heard by nobody.
    broken.catch(() => undefined);
    stopped.catch(() => undefined);
    if (!(await Promise.race([hasPortal(open), broken]))) throw none('none of its programs for that was found');
    return await Promise.race([request(open, near, title), broken, stopped]);
  } catch (error) {
    throw error instanceof SatchelError ? error : none(reasonOf(error), error);
  } finally {
    // A request whose asker has gone is closed by the portal.
    bus?.disconnect();
  }
}

async function request(bus: MessageBus, near: string, title: string): Promise<string | undefined> {
  const answers = new Map<string, unknown[]>();
  let heard: () => void = () => undefined;
  // It may be answered before its own name is known.
  bus.on('message', ({ path, interface: of, member, body }: Message) => {
    if (of !== 'org.freedesktop.portal.Request' || member !== 'Response' || path === undefined) return;
    answers.set(path, body);
    heard();
  });
  const options = {
    directory: new Variant('b', true),
    modal: new Variant('b', true),
    current_folder: new Variant('ay', Buffer.from(`${near}\0`)),
  };
  const reply = await bus.call(
    new Message({
      ...PORTAL,
      interface: 'org.freedesktop.portal.FileChooser',
      member: 'OpenFile',
      signature: 'ssa{sv}',
      body: ['', title, options],
    }),
  );
  const [handle = ''] = (reply?.body ?? []) as [string?];
  for (;;) {
    const answer = answers.get(handle);
    if (answer) return chosenIn(answer);
    await new Promise<void>((go) => (heard = go));
  }
}

function chosenIn([how, results]: unknown[]): string | undefined {
  if (how === CANCELLED) return undefined;
  const uris = (results as Record<string, Variant | undefined> | undefined)?.uris?.value;
  const [uri] = Array.isArray(uris) ? (uris as unknown[]) : [];
  if (how !== CHOSEN || typeof uri !== 'string' || !uri.startsWith('file:'))
    throw new SatchelError('no-dialog', { why: 'the desktop’s own dialog ended without an answer' });
  return fileURLToPath(uri);
}
