import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { deploy, expect, step } from './support';

/**
 * A game as its makers know it: its files, and what it does when it starts. It reads its folder by its own rules and
 * writes its log.
 */
interface Made {
  title: string;
  files: Record<string, string>;
  /** The tool that makes the pack, what is in it, and the file. */
  pack: { name: string; tool: string; args: string[]; files: Record<string, string> };
  start(game: string, time: number): void;
  log: string;
  /** Presses what the pack asks for in Settings. */
  settings(page: Page): Promise<void>;
  /** At most one question. */
  answer?(page: Page): Promise<void>;
  well: RegExp;
  /** What another program, or the game, does to it; what is said then, and the cure. */
  break(game: string): void;
  broken: RegExp;
  cure(page: Page): Promise<void>;
}

const clock = (time: number, n: number): string =>
  `[${String(10 + time).padStart(2, '0')}:00:${String(n).padStart(2, '0')}]`;

const write = (game: string, log: string, time: number, lines: string[]): void =>
  writeFileSync(path.join(game, log), lines.map((line, n) => `${clock(time, n)} ${line}\n`).join(''));

const ini = (game: string, file: string): string => readFileSync(path.join(game, file), 'utf8');

const again = async (page: Page): Promise<void> => {
  await step(page, 'Settings').click();
  // The page for checking has a button of this name, too, which leads to the plan.
  await expect(page).toHaveURL(/\/game\/settings$/);
  await expect(page.getByRole('region', { name: 'Keys' })).toBeVisible();
  const button = page.getByRole('main').getByRole('button', { name: /^Put (?:it|them) in again$/ });
  // The page may still move below the pointer: what the game wrote is being looked at.
  await expect(async () => {
    await button.click({ timeout: 2000 });
    await expect(button.and(page.locator(':not([aria-disabled="true"])'))).toHaveCount(0, { timeout: 2000 });
  }).toPass();
  // Who goes elsewhere while it is written is not called back.
  await step(page, 'Check').click();
  await expect(page.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText('0changes waiting');
  await expect(page).toHaveURL(/\/game\/check$/);
};

/** Games that nobody described to the app. */
export const GAMES: Made[] = [
  {
    title: 'Copper Pass',
    files: {
      'copper.exe': 'program',
      'content/rails/iron.png': 'iron',
      'content/rails/wood.png': 'wood',
      'content/huts/hut.png': 'hut',
      'addons/Base/addon.cfg': 'name=Base\n',
      'addons/Base/rails/rail.png': 'rail',
      'addons/Snow/addon.cfg': 'name=Snow\n',
      'addons/Snow/rails/rail.png': 'snow',
      'pass.ini': '[Addons]\nEnabled=0\nLoadLoose=0\n',
    },
    pack: {
      name: 'fog-1.2.zip',
      tool: 'zip',
      args: ['-qr'],
      files: {
        'Fog/addon.cfg': 'name=Fog\n',
        'Fog/rails/rail.png': 'fog',
        'README.txt': 'Drop the Fog folder into addons.\nSet LoadLoose to 1 in pass.ini, under [Addons].\n',
      },
    },
    log: 'pass.log',
    start(game, time) {
      const on = /Enabled=1/.test(ini(game, 'pass.ini')) && /LoadLoose=1/.test(ini(game, 'pass.ini'));
      const addons = on
        ? readdirSync(path.join(game, 'addons')).filter((name) =>
            existsSync(path.join(game, 'addons', name, 'addon.cfg')),
          )
        : [];
      write(game, 'pass.log', time, [
        'INFO Copper Pass 3',
        ...addons.flatMap((name) => [
          `INFO reading addons/${name}/addon.cfg`,
          ...(existsSync(path.join(game, 'addons', name, 'rails/rail.png'))
            ? []
            : [`ERROR cannot open addons/${name}/rails/rail.png`]),
        ]),
        `INFO loaded ${addons.length} add-ons`,
      ]);
    },
    // The read-me speaks of the one switch; that another one goes before it the app says by itself.
    async settings(page) {
      await page.getByRole('button', { name: 'Set Addons › LoadLoose to 1' }).click();
      await expect(page.getByText('has “LoadLoose” as it asks, but “Enabled” beside it is 0')).toBeVisible();
      await page.getByRole('button', { name: 'Set Addons › Enabled to 1' }).click();
      await expect(page.getByText('“Enabled” beside it')).toHaveCount(0);
    },
    well: /loaded 3 add-ons/,
    break: (game) => writeFileSync(path.join(game, 'pass.ini'), '[Addons]\nEnabled=0\nLoadLoose=1\n'),
    broken: /loaded 0 add-ons/,
    cure: again,
  },
  {
    title: 'Larder Player',
    files: {
      'player.exe': 'program',
      'player.toml': '[video]\nscale = 2\n\n[textures]\nload_custom = false\n',
      'library.xml':
        '<library>\n <game id="AB12-0034" name="Mushroom Post"/>\n <game id="AB12-0077" name="Tin Boat"/>\n</library>\n',
      'textures/AB12-0034/hd/0a1b2c.png': 'one',
      'textures/AB12-0034/hd/9f8e7d.png': 'two',
      'covers/AB12-0034.jpg': 'cover',
      'covers/AB12-0077.jpg': 'cover',
    },
    pack: {
      name: 'Tin Boat HD.7z',
      tool: '7z',
      args: ['a', '-bso0', '-bsp0'],
      files: {
        '0011aa.png': 'sharp',
        '22bb33.png': 'sharper',
        'readme.txt': 'HD textures for Tin Boat.\nIn player.toml, load_custom has to be true.\n',
      },
    },
    log: 'player.log',
    start(game, time) {
      const on = /load_custom = true/.test(ini(game, 'player.toml'));
      const folder = path.join(game, 'textures/AB12-0077/hd');
      const found = on && existsSync(folder) ? readdirSync(folder) : [];
      write(game, 'player.log', time, [
        'note: Larder Player',
        ...found.map((name) => `note: using textures/AB12-0077/hd/${name}`),
        ...(on && !existsSync(path.join(folder, '22bb33.png'))
          ? ['warning: missing textures/AB12-0077/hd/22bb33.png']
          : []),
        `note: ${found.length} textures replaced`,
      ]);
    },
    settings: (page) => page.getByRole('button', { name: 'Set textures › load_custom to true' }).click(),
    well: /2 textures replaced/,
    break: (game) => rmSync(path.join(game, 'textures/AB12-0077/hd/22bb33.png')),
    broken: /missing textures\/AB12-0077\/hd\/22bb33\.png/,
    cure: (page) => deploy(page, /\d+ of \d+ landed/),
  },
  {
    title: 'Upland Cards',
    files: {
      'upland.exe': 'program',
      'data/cards.dat': 'cards',
      'lang/en.json': '{ "hello": "Hello" }\n',
      'lang/de.json': '{ "hello": "Hallo" }\n',
      'mods.json': '{ "on": [ "base.zip" ] }\n',
    },
    pack: {
      name: 'witch.zip',
      tool: 'zip',
      args: ['-qr'],
      files: {
        'deck.json': '{ "name": "Witch" }\n',
        'Witch/a.png': 'card',
        'readme.txt': 'Leave this one zipped and put it into mods.\nAdd "witch.zip" to the list "on" in mods.json.\n',
      },
    },
    log: 'upland.log',
    start(game, time) {
      const wanted = (JSON.parse(ini(game, 'mods.json')) as { on: string[] }).on;
      write(
        game,
        'upland.log',
        time,
        wanted
          .map((name) =>
            existsSync(path.join(game, 'mods', name)) ? `info: opened mods/${name}` : `error: mods/${name} not found`,
          )
          .concat(`info: ${wanted.filter((name) => existsSync(path.join(game, 'mods', name))).length} packs loaded`),
      );
    },
    settings: (page) => page.getByRole('button', { name: 'Set on › 1 to witch.zip' }).click(),
    well: /2 packs loaded/,
    break: (game) => writeFileSync(path.join(game, 'mods.json'), '{ "on": [ "base.zip" ] }\n'),
    broken: /1 packs loaded/,
    cure: again,
  },
  {
    title: 'Dray Yard',
    files: {
      'dray.exe': 'program',
      ...Object.fromEntries(
        ['shire', 'cob', 'mule'].flatMap((name) => [
          [`horses/${name}/horse.hrs`, name],
          [`horses/${name}/coat.dds`, name],
          [`horses/${name}/coats.ini`, `[coat.00]\nname=Plain\ntexture=coat.dds\n`],
        ]),
      ),
    },
    pack: {
      name: 'piebald shire.tar.gz',
      tool: 'tar',
      args: ['czf'],
      files: {
        'piebald.dds': 'spots',
        'read.txt':
          'Place piebald.dds in horses/shire.\nOpen coats.ini there and add:\n\n[coat.XX]\nname=Piebald\ntexture=piebald.dds\n\nwhere XX is the next number.\n',
      },
    },
    log: 'dray.log',
    start(game, time) {
      const lines = readdirSync(path.join(game, 'horses')).flatMap((name) =>
        [...ini(game, `horses/${name}/coats.ini`).matchAll(/^texture=(.*)$/gm)].map(([, texture = '']) =>
          existsSync(path.join(game, 'horses', name, texture))
            ? `I ${name}: coat ${texture}`
            : `E ${name}: horses/${name}/${texture} is missing`,
        ),
      );
      write(game, 'dray.log', time, [...lines, `I ${lines.filter((line) => line.startsWith('I')).length} coats`]);
    },
    settings: (page) => page.getByRole('button', { name: /^Put in \[coat\. N\]|^Put in \[coat/ }).click(),
    well: /4 coats/,
    break: (game) => rmSync(path.join(game, 'horses/shire/piebald.dds')),
    broken: /horses\/shire\/piebald\.dds is missing/,
    cure: (page) => deploy(page, /\d+ of \d+ landed/),
  },
];

// A zip among zips, made with the tool that its players have.
export function finish(game: string, title: string): void {
  if (title !== 'Upland Cards') return;
  for (const name of ['base', 'forest']) {
    const from = path.join(game, '..', name);
    mkdirSync(from);
    writeFileSync(path.join(from, 'deck.json'), `{ "name": "${name}" }\n`);
    mkdirSync(path.join(game, 'mods'), { recursive: true });
    execFileSync('zip', ['-qr', path.join(game, 'mods', `${name}.zip`), '.'], { cwd: from });
  }
}
