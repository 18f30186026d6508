import { spawn, type ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { Message, Variant, sessionBus, type MessageBus } from '@jellybrick/dbus-next';
import { has } from '../../tests/support/tools';
import { askForFolder } from './askFolder';

/**
 * The desktop's portal over a bus of its own (`dbus-daemon`, Debian's package dbus). Source of names, signatures and
 * numbers: XDG Desktop Portal, org.freedesktop.portal.FileChooser (version 3: `directory`) and
 * org.freedesktop.portal.Request.
 */
describe.skipIf(!has('dbus-daemon'))(
  'the folder dialog of a Linux desktop (skipped where dbus-daemon is missing)',
  () => {
    let daemon: ChildProcess;
    let desktop: MessageBus;
    let version = 3;
    let answer: (asked: {
      title: string;
      options: Record<string, Variant>;
    }) => [number, Record<string, Variant>] | undefined = () => undefined;

    beforeAll(async () => {
      daemon = spawn('dbus-daemon', ['--session', '--nofork', '--print-address'], {
        stdio: ['ignore', 'pipe', 'ignore'],
      });
      const address = await new Promise<string>((done) =>
        daemon.stdout?.once('data', (piece: Buffer) => done(piece.toString().trim())),
      );
      for (const [name, value] of Object.entries({
        DBUS_SESSION_BUS_ADDRESS: address,
        PATH: '/nowhere',
        DISPLAY: ':99',
        SATCHEL_DIALOG: '',
      }))
        vi.stubEnv(name, value);
      desktop = sessionBus({ busAddress: address });
      await desktop.requestName('org.freedesktop.portal.Desktop', 0);
      desktop.addMethodHandler((asked: Message) => {
        const reply = (signature: string, body: unknown[]) =>
          desktop.send(Message.newMethodReturn(asked, signature, body));
        if (asked.member === 'Get') reply('v', [new Variant('u', version)]);
        if (asked.member !== 'OpenFile') return asked.member === 'Get';
        const [, title = '', options] = asked.body as [string, string, Record<string, Variant>];
        const path = `/org/freedesktop/portal/desktop/request/${asked.sender?.slice(1).replaceAll('.', '_') ?? ''}/t`;
        reply('o', [path]);
        const said = answer({ title, options });
        if (said)
          desktop.send(
            new Message({
              type: 4,
              destination: asked.sender,
              path,
              interface: 'org.freedesktop.portal.Request',
              member: 'Response',
              signature: 'ua{sv}',
              body: said,
            }),
          );
        return true;
      });
    });
    afterAll(() => {
      desktop.disconnect();
      daemon.kill();
      vi.unstubAllEnvs();
    });
    const ask = (signal = new AbortController().signal) => askForFolder('/home', signal, 'Choose it');

    it('gives the folder that was chosen, whatever its name is', async () => {
      const asked: { title: string; options: Record<string, Variant> }[] = [];
      answer = (one) => {
        asked.push(one);
        return [0, { uris: new Variant('as', ['file:///home/me/My%20Game%20%C3%BC']) }];
      };
      expect(await ask()).toBe('/home/me/My Game ü');
      expect(asked).toHaveLength(1);
      expect([
        asked[0]?.title,
        asked[0]?.options.directory?.value,
        Buffer.from(asked[0]?.options.current_folder?.value as Buffer).toString(),
      ]).toEqual(['Choose it', true, '/home\0']);
    });

    it('nothing where the user changed their mind; a failure says why; one that is not wanted any more is left', async () => {
      answer = () => [1, {}];
      expect(await ask()).toBeUndefined();
      const ended = {
        code: 'no-dialog',
        failure: { details: { why: 'the desktop’s own dialog ended without an answer' } },
      };
      for (const said of [
        [2, {}],
        [2, { uris: new Variant('as', ['file:///home']) }],
        [0, {}],
        [0, { uris: new Variant('as', []) }],
        [0, { uris: new Variant('s', 'file:///home') }],
        [0, { uris: new Variant('as', ['https://elsewhere.example/']) }],
      ] as [number, Record<string, Variant>][]) {
        answer = () => said;
        await expect(ask()).rejects.toMatchObject(ended);
      }
      const stop = new AbortController();
      answer = () => void stop.abort();
      await expect(ask(stop.signal)).rejects.toMatchObject({ code: 'cancelled' });
    });

    it('is not asked where it cannot ask for folders, and where there is none', async () => {
      const none = { code: 'no-dialog', failure: { details: { why: 'none of its programs for that was found' } } };
      version = 2;
      await expect(ask()).rejects.toMatchObject(none);
      version = 4;
      answer = () => [1, {}];
      expect(await ask()).toBeUndefined();
      version = 3;
      vi.stubEnv('DBUS_SESSION_BUS_ADDRESS', 'unix:path=/nowhere/bus');
      await expect(ask()).rejects.toMatchObject({
        code: 'no-dialog',
        failure: { details: { why: expect.stringContaining('/nowhere/bus') as string } },
        cause: { code: 'ENOENT' },
      });
      vi.stubEnv('DBUS_SESSION_BUS_ADDRESS', '');
      await expect(ask()).rejects.toMatchObject(none);
    });
  },
);
