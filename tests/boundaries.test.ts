import { ESLint } from 'eslint';
import tseslint from 'typescript-eslint';
import { describe, expect, it } from 'vitest';

/** Lints a text as if it stood at a path. Rules that need types are left away: imports are what is tried here. */
async function problems(path: string, text: string): Promise<string[]> {
  const eslint = new ESLint({
    overrideConfig: [
      {
        ...tseslint.configs.disableTypeChecked,
        languageOptions: { parserOptions: { projectService: false, program: null, project: false } },
      },
    ],
  });
  const [result] = await eslint.lintText(text, { filePath: path });
  return (result?.messages ?? []).map(({ ruleId, message }) => ruleId ?? message);
}

const IMPORTS = '@typescript-eslint/no-restricted-imports';

describe('the never-rules are kept by lint', () => {
  it.each([
    [
      'core imports the interface',
      'src/core/paths/x.ts',
      "import { x } from '@/ui/engine'; export const y = x;",
      IMPORTS,
    ],
    [
      'core imports a neighbour by dots',
      'src/core/paths/x.ts',
      "import { x } from '../../folders/browser'; export const y = x;",
      IMPORTS,
    ],
    [
      'core imports React',
      'src/core/paths/x.ts',
      "import { useState } from 'react'; export const y = useState;",
      IMPORTS,
    ],
    [
      'core imports storage',
      'src/core/paths/x.ts',
      "import localforage from 'localforage'; export const y = localforage;",
      IMPORTS,
    ],
    [
      'core imports Node',
      'src/core/paths/x.ts',
      "import { readFileSync } from 'node:fs'; export const y = readFileSync;",
      IMPORTS,
    ],
    ['core uses the network', 'src/core/paths/x.ts', "export const y = () => fetch('/x');", 'no-restricted-globals'],
    ['core uses the document', 'src/core/paths/x.ts', 'export const y = document;', 'no-restricted-globals'],
    [
      'the stand-in imports the checks',
      'src/trial/x.ts',
      "import { readLog } from '@/core'; export const y = readLog;",
      IMPORTS,
    ],
    [
      'the stand-in reaches into placement',
      'src/trial/x.ts',
      "import type { Placement } from '@/core/placement/placement'; export type Y = Placement;",
      IMPORTS,
    ],
    [
      'a view reaches past the door',
      'src/ui/stack/x.tsx',
      "import { nameKey } from '@/core/paths/paths'; export const y = nameKey;",
      IMPORTS,
    ],
    [
      'a control is switched off and loses the focus',
      'src/ui/stack/x.tsx',
      'export const Y = () => <button disabled>x</button>;',
      'no-restricted-syntax',
    ],
    [
      'a view takes the buttons that are switched off',
      'src/ui/stack/x.tsx',
      "import { Button } from 'react-bootstrap'; export const y = Button;",
      'no-restricted-syntax',
    ],
    [
      'a view opens a folder itself',
      'src/ui/stack/x.tsx',
      "import { BrowserFolder } from '@/folders/browser'; export const y = BrowserFolder;",
      IMPORTS,
    ],
    [
      'a view reaches into the worker',
      'src/ui/stack/x.tsx',
      "import { Engine } from '@/worker/tab/engine'; export const y = Engine;",
      IMPORTS,
    ],
    [
      'a view asks the server half',
      'src/ui/stack/x.tsx',
      "import { x } from '@/bridge/serve'; export const y = x;",
      IMPORTS,
    ],
    [
      'the page’s half of the bridge reaches into the server’s',
      'src/folders/x.ts',
      "import { DiskFolder } from '@/bridge/disk'; export const y = DiskFolder;",
      IMPORTS,
    ],
    [
      'the server half knows the worker',
      'src/bridge/x.ts',
      "import { Engine } from '@/worker/tab/engine'; export const y = Engine;",
      IMPORTS,
    ],
    [
      'the worker reaches past the door',
      'src/worker/x.ts',
      "import { nameKey } from '@/core/paths/paths'; export const y = nameKey;",
      IMPORTS,
    ],
    [
      'a route holds logic',
      'src/app/x/route.ts',
      'export const GET = (a: number) => { if (a === 1) return 1; if (a === 2) return 2; if (a === 3) return 3; if (a === 4) return 4; return 5; };',
      'complexity',
    ],
    ['anything runs text', 'src/worker/x.ts', 'export const y = (code: string): unknown => eval(code);', 'no-eval'],
  ])(
    '%s',
    async (_name, path, text, rule) => {
      expect(await problems(path, text)).toContain(rule);
    },
    60_000,
  );

  it.each([
    [
      'src/core/paths/x.ts',
      "import { z } from 'zod'; import { nameKey } from './paths'; export const y = [z, nameKey];",
    ],
    ['src/trial/x.ts', "import type { Folder } from '@/core'; export type Y = Folder;"],
    [
      'src/ui/stack/x.tsx',
      "import { count } from '@/ui/shared/format'; import { kindOf } from '@/core'; import type { Tag } from '@/worker/contract'; export const y = (tag: Tag) => [count, kindOf, tag];",
    ],
  ])(
    'what is allowed passes: %s',
    async (path, text) => {
      expect(await problems(path, text)).toEqual([]);
    },
    60_000,
  );
});
