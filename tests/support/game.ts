import { zipSync } from 'fflate';
import {
  LARGE,
  deploy,
  noDecisions,
  openPack,
  placeFiles,
  planDeployment,
  readState,
  resolveLayers,
  type Dialect,
  type Edit,
  type Folder,
  type Layer,
  type LedgerEntry,
  type OwnFile,
  type Pack,
  type Plan,
  parseTarget,
  type TargetPath,
  type Workshop,
} from '@/core';
import { MemoryFolder } from './memoryFolder';

export type Contents = Record<string, string>;

/** A pack made of texts, as a real ZIP that is really read. */
export const makePack = (name: string, files: Contents): Promise<Pack> =>
  openPack(
    new Blob([
      zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, new TextEncoder().encode(text)]))),
    ]),
    name,
  );

/** A folder that does not give the bytes of large files all at once. */
export function noLargeBytes<T extends Folder>(folder: T): T {
  const ours: Pick<Folder, 'readBytes'> = {
    readBytes: async (path) => {
      if (((await folder.stat(path))?.size ?? 0) > LARGE) throw new Error(`${path} is read whole`);
      return new Uint8Array(await (await folder.read(path)).arrayBuffer());
    },
  };
  return Object.assign(Object.create(folder) as T, ours);
}

/** What a test's stack is made of, lowest first. */
export type StackItem = { pack: string; into?: 'program' | 'user' } | { edits: Edit[] } | { own: OwnFile[] };

export const SETTINGS = parseTarget('user/settings.ini');
const dialectOf = (target: TargetPath): Dialect | undefined => (target === SETTINGS ? 'ini' : undefined);

/** A game in memory with packs at hand: what tests of deployment work on. */
export class Bench {
  readonly program: MemoryFolder;
  readonly user: MemoryFolder;
  readonly vault = new MemoryFolder();
  readonly backup = new MemoryFolder();
  private clock = 0;

  constructor(
    program: Contents,
    user: Contents,
    readonly packs: Record<string, Pack>,
    /** Whether files can have second names. */
    links = true,
  ) {
    this.program = new MemoryFolder(program);
    this.user = new MemoryFolder(user);
    for (const folder of [this.program, this.user, this.vault, this.backup]) folder.links = links;
  }

  /** The workshop, its folders wrapped where a test wants them to fail. */
  workshop(wrap: (folder: Folder) => Folder = (folder) => folder): Workshop {
    return {
      folders: { program: wrap(this.program), user: wrap(this.user) },
      vault: wrap(this.vault),
      backup: wrap(this.backup),
      now: () => ++this.clock,
      openPack: async (id) => {
        const pack = this.packs[id];
        if (!pack) throw new Error(`no pack ${id}`);
        return pack;
      },
    };
  }

  layers(stack: readonly StackItem[]): Layer[] {
    return stack.map((item, i): Layer => {
      if ('edits' in item) return { kind: 'edits', id: `edits-${i}`, name: 'Edits', file: SETTINGS, edits: item.edits };
      if ('own' in item) return { kind: 'own', id: 'own', name: 'Your own files', files: item.own };
      const entries = this.packs[item.pack]?.entries ?? [];
      return {
        kind: 'pack',
        id: `layer-${item.pack}`,
        name: item.pack,
        packId: item.pack,
        files: placeFiles(entries, {
          rules: [{ as: 'files', from: '', to: parseTarget(item.into ?? 'program') }],
          leftOut: [],
          made: [],
          decisions: noDecisions,
        }),
      };
    });
  }

  async plan(stack: readonly StackItem[], workshop = this.workshop()): Promise<Plan> {
    return planDeployment({
      workshop,
      resolution: resolveLayers(this.layers(stack)),
      state: await readState(workshop.vault),
      dialectOf,
      nameOf: (layer) => layer,
    });
  }

  async deploy(stack: readonly StackItem[], workshop = this.workshop()): Promise<LedgerEntry> {
    return deploy(await this.plan(stack, workshop), workshop, { title: 'Deploy', layers: this.layers(stack) });
  }

  /** The game's folders themselves, empty ones included. */
  tree(): string[] {
    return [
      ...this.program.folders().map((path) => `program/${path}`),
      ...this.user.folders().map((path) => `user/${path}`),
    ];
  }

  /** Everything in the game's folders, as text. */
  contents(): Contents {
    const text = (prefix: string, folder: MemoryFolder) =>
      Object.entries(folder.contents()).map(
        ([path, data]) => [`${prefix}/${path}`, new TextDecoder().decode(data)] as const,
      );
    return Object.fromEntries([...text('program', this.program), ...text('user', this.user)]);
  }
}

export { dialectOf as benchDialect };
