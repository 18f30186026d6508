import { open } from 'node:fs/promises';
import { homedir } from 'node:os';
import { z } from 'zod';
import { SatchelError, toFailure, type ErrorCode, type FileStat } from '@/core';
import type { DiskFolder } from './disk';
import { TITLES, askForFolder, usualPlace } from './askFolder';
import { takeDownload } from './downloads';
import { digestsOf, listChanges, listFiles, sendBytes, sendFile, takeFile } from './files';
import { checkRequest, oldAddress } from './gate';
import { addChosen, downloads, forgetChosen, givenFolders } from './given';
import { markedOrigin } from './mark';
import { archivePath, packPath } from './packs';
import { expectRun } from './ownThread';
import { answerRun, isBusy, startRun } from './run';
import { startUnpacking, unpackDownload } from './unpackDownload';
import { PARTS, answerSchema, chooseSchema, runSchema, takeSchema, unpackSchema, type BridgePart } from './wire';

/** A plan of 100,000 files takes about 40 MB. */
const LARGEST_ORDER = 256 * 1024 ** 2;

const json = (value: unknown, status = 200): Response =>
  Response.json(value, { status, headers: { 'Cache-Control': 'no-store' } });
const STATUS: Partial<Record<ErrorCode, number>> = {
  'folder-missing-file': 404,
  'unknown-thing': 404,
  'folder-gone': 404,
  'folder-refused': 409,
  'journal-open': 409,
  'dialog-open': 409,
  'folder-twice': 409,
  'backup-in-game': 409,
  'whole-disk': 409,
  'downloads-in-game': 409,
  'needs-copy': 409,
  'still-coming': 409,
  'no-dialog': 501,
  'vault-locked': 409,
  'bad-request': 400,
  'bridge-closed': 401,
  'not-ours': 403,
};

/** Answers every request under /bridge. Every refusal is plain data with a code and a sentence, as everywhere. */
export async function bridge(request: Request): Promise<Response> {
  const { pathname } = new URL(request.url);
  if (pathname === '/bridge/open' && request.method === 'GET') return oldAddress();
  try {
    if (!process.env.SATCHEL_FOLDERS)
      throw new SatchelError('unknown-thing', { what: 'folder that this app was started with' });
    checkRequest(request);
    return await route(request, pathname.split('/').slice(2));
  } catch (error) {
    const failure =
      error instanceof z.ZodError ? badRequest('it is not one that this app makes').failure : toFailure(error);
    return json({ failure }, STATUS[failure.code] ?? 500);
  }
}

const badRequest = (why: string): SatchelError => new SatchelError('bad-request', { why });

/** The parts of an address under /bridge, and who asks. */
interface Asked {
  request: Request;
  what: string;
  id: string;
  part: string;
  verb: string;
}

const noSuchAddress = (): SatchelError => new SatchelError('unknown-thing', { what: 'such address' });

async function route(request: Request, [what = '', id = '', part = '', verb = '']: string[]): Promise<Response> {
  const asked: Asked = { request, what, id, part, verb };
  if (what === 'folder') return partOfGame(asked);
  if (what === 'downloads') return downloadsFolder(asked);
  switch (`${request.method} ${what}`) {
    case 'GET folders':
      // Who asks is about to open a game: the folder that lies there now is the one that is meant.
      for (const [folder, { parts }] of givenFolders(true)) if (!isBusy(folder)) parts.game.pin();
      return json([...givenFolders().values()].map(({ note }) => note));
    case 'DELETE folders':
      if (isBusy(id)) throw new SatchelError('journal-open');
      return json(forgetChosen(id));
    case 'POST run':
      return startRun(runSchema.parse(await body(request)), request.signal);
    case 'POST answer': {
      const { run, answer } = answerSchema.parse(await body(request));
      return json({ taken: answerRun(run, answer) });
    }
    case 'POST choose':
      return choose(request);
    default:
      throw noSuchAddress();
  }
}

/** Asks the player for a folder, in this computer's own dialog. */
async function choose(request: Request): Promise<Response> {
  const { near, what } = chooseSchema.parse(await body(request));
  const begin = near === undefined ? homedir() : usualPlace(near);
  const chosen = await askForFolder(begin, request.signal, TITLES[what]);
  if (what === 'game') return json(chosen === undefined ? null : addChosen(chosen));
  if (chosen !== undefined) downloads().give(chosen);
  return json(await downloads().list());
}

async function downloadsFolder({ request, id }: Asked): Promise<Response> {
  const find = () => downloads().find(new URL(request.url).searchParams.get('path') ?? '');
  switch (`${request.method} ${id}`) {
    case 'GET ':
      return json(await downloads().list());
    case 'GET file': {
      const handle = await open(await find(), 'r');
      return sendBytes(handle, (await handle.stat()).size, request.headers.get('range'));
    }
    case 'GET mark':
      return json((await markedOrigin(await find())) ?? null);
    case 'DELETE ':
      await downloads().forget();
      return json(true);
    default:
      throw noSuchAddress();
  }
}

/** One of the folders of a game: its own, its vault or its plain copies. */
async function partOfGame({ request, id, part, verb }: Asked): Promise<Response> {
  const found = givenFolders().get(id);
  if (!found || !(PARTS as readonly string[]).includes(part))
    throw new SatchelError('unknown-thing', { what: 'folder that this app was started with' });
  if (['pack', 'take', 'unpack'].includes(verb) && part !== 'vault') throw noSuchAddress();
  const folder = found.parts[part as BridgePart];
  const query = new URL(request.url).searchParams;
  const here: Here = { request, folder, query, path: query.get('path') ?? '' };
  await checkBusy(here, id, verb);
  const key = `${request.method} ${verb}`;
  const answer = (await packs(here, key)) ?? (await files(here, key)) ?? (await lookInto(here, key));
  if (!answer) throw noSuchAddress();
  return answer;
}

/** What is asked of one folder. */
interface Here {
  request: Request;
  folder: DiskFolder;
  query: URLSearchParams;
  path: string;
}

/** While a deployment is under way nothing else writes, but for a pack that comes in. */
async function checkBusy({ request, folder, path }: Here, id: string, verb: string): Promise<void> {
  const writes = request.method === 'PUT' || request.method === 'DELETE';
  const isNewPack =
    verb === 'pack' && (await folder.stat(packPath(path)))?.size !== Number(request.headers.get('content-length'));
  if (writes && isBusy(id) && !isNewPack)
    throw new SatchelError('folder-refused', { path, why: 'a deployment is under way in it' });
}

/** Packs that come into the vault, and what is known of those in it. */
async function packs({ request, folder, query, path }: Here, key: string): Promise<Response | undefined> {
  switch (key) {
    case 'POST take': {
      const asked = takeSchema.parse(await body(request));
      const found = 'name' in asked ? await downloads().find(asked.name) : await downloads().search(asked);
      if (found === undefined) return json(null);
      const options = { copy: 'name' in asked && asked.copy, signal: request.signal };
      return json(await takeDownload(folder, path, found, options));
    }
    case 'POST unpack':
      return unpack(folder, path, request);
    case 'PUT pack':
      await takeFile(folder, packPath(path), request);
      return json(true);
    case 'GET pack':
      return json((await packThere(folder, path, query.get('name') ?? '')) ?? null);
    default:
      return undefined;
  }
}

/** Files that are read, written and removed one by one. */
async function files({ request, folder, path }: Here, key: string): Promise<Response | undefined> {
  switch (key) {
    case 'GET file':
      return sendFile(folder, path, request.headers.get('range'));
    case 'PUT file':
      await takeFile(folder, path, request);
      await folder.settle();
      return json((await folder.stat(path)) ?? null);
    case 'DELETE file':
      await folder.remove(path);
      return json(true);
    case 'DELETE folder':
      return json(await folder.removeFolder(path));
    default:
      return undefined;
  }
}

/** What there is to know of a folder and its files. */
async function lookInto({ request, folder, query, path }: Here, key: string): Promise<Response | undefined> {
  switch (key) {
    case 'GET list':
      return listFiles(folder, path);
    case 'GET changes':
      return listChanges(folder, query.get('since'), query.has('anew'), request.signal);
    case 'GET stat':
      return json((await folder.stat(path)) ?? null);
    case 'POST stats':
      return json((await folder.stats(await namesIn(request))).map((stat) => stat ?? null));
    case 'POST digests-crc32':
      return json(await digestsOf(folder, 'crc32', await namesIn(request)));
    case 'POST digests-sha256':
      return json(await digestsOf(folder, 'sha256', await namesIn(request)));
    case 'GET folder':
      return json(await folder.hasFolder(path));
    case 'GET room':
      return json(await folder.room());
    default:
      return undefined;
  }
}

/** Unpacks a download into a pack of its own, on a thread. */
async function unpack(folder: DiskFolder, path: string, request: Request): Promise<Response> {
  const asked = unpackSchema.parse(await body(request));
  const password = 'password' in asked ? asked.password : undefined;
  return startUnpacking(async (options) => {
    const found =
      'parts' in asked
        ? await Promise.all(asked.parts.map((name) => downloads().find(name)))
        : [await downloads().search(asked)].filter((file) => file !== undefined);
    if (found.length === 0) return undefined;
    return unpackDownload(folder, path, { files: found, name: asked.name, password }, options);
  }, request.signal);
}

/** Files that are asked about in one request. */
const MOST_NAMES = 10_000;
const namesIn = async (request: Request): Promise<string[]> =>
  z
    .array(z.string())
    .max(MOST_NAMES)
    .parse(await body(request));

/** It is asked before a deployment, which the server gets ready for. */
async function packThere(folder: DiskFolder, id: string, name: string): Promise<FileStat | undefined> {
  const stat = await folder.stat(packPath(id));
  expectRun(stat && { archive: archivePath(folder, id), name });
  return stat;
}

/** A request's JSON, read no further than it may be long. */
async function body(request: Request): Promise<unknown> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += piece.length;
    if (size > LARGEST_ORDER) throw badRequest('it is too long');
    pieces.push(piece);
  }
  try {
    return JSON.parse(Buffer.concat(pieces).toString('utf8'));
  } catch {
    // Whoever sent it is told.
    throw badRequest('it is not JSON');
  }
}
