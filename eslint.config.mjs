import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';

/** Folders of src other than core, as they could be written in an import. */
const OUTSIDE_CORE = String.raw`^(@/|(\.\./)+)(folders|bridge|storage|trial|demo|worker|app|ui)(/|$)`;
const PAST_THE_DOOR = {
  regex: String.raw`^(@/core/|(\.\./)+core/)`,
  message: 'src/core/index.ts is the only door into the core.',
};

const restrict = (...patterns) => ({ '@typescript-eslint/no-restricted-imports': ['error', { patterns }] });

export default tseslint.config(
  {
    ignores: ['.next/**', '.satchel/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**', 'playwright-report/**'],
  },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: {
      parserOptions: { projectService: { allowDefaultProject: ['*.mjs', 'scripts/*.mjs', 'e2e/*.mjs'] } },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/unbound-method': 'off',
      'no-eval': 'error',
      'no-new-func': 'error',
      eqeqeq: 'error',
    },
  },
  { files: ['**/*.mjs'], ...tseslint.configs.disableTypeChecked },
  {
    files: ['src/**/*.tsx', 'src/ui/**/*.ts'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  // A control that is switched off throws the focus away: src/ui/shared/controls.tsx holds it instead.
  {
    files: ['src/ui/**/*.tsx'],
    ignores: ['src/ui/shared/controls.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'JSXOpeningElement[name.name=/^(button|input|select|textarea|fieldset)$/] > JSXAttribute[name.name="disabled"]',
          message: 'Use Press or Form of ui/shared/controls: a control that is switched off loses the focus.',
        },
        {
          selector:
            'ImportDeclaration[source.value="react-bootstrap"] > ImportSpecifier[imported.name=/^(Button|Form)$/]',
          message: 'Button and Form come from ui/shared/controls.',
        },
      ],
    },
  },

  // The form: what is longer or has more branches is cut by what it decides. A longer file says in its first comment
  // why it is one.
  {
    files: ['src/**/*.{ts,tsx}', 'scripts/**/*.mjs'],
    ignores: ['**/*.test.ts'],
    rules: {
      complexity: ['error', 15],
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      'max-params': ['error', 4],
      'max-lines': ['error', 300],
    },
  },
  {
    rules: {
      'max-len': [
        'error',
        { code: 120, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true },
      ],
    },
  },

  // The never-rules of docs/architecture.md. tests/boundaries.test.ts tries each of them.
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      ...restrict(
        { regex: OUTSIDE_CORE, message: 'The core imports nothing outside the core.' },
        { regex: '^@/core', message: 'Inside the core, imports are relative.' },
        {
          regex: String.raw`^(node:|react|next|localforage|comlink|bootstrap)`,
          message: 'The core knows no interface, storage, network or Node.',
        },
      ),
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'localStorage',
        'sessionStorage',
        'indexedDB',
        'fetch',
        'XMLHttpRequest',
        'navigator',
        'process',
        'Worker',
      ],
    },
  },
  {
    files: ['src/trial/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^@/core$',
              allowTypeImports: true,
              message: 'The stand-in game shares no code with the core: types only, or it would confirm itself.',
            },
            {
              regex: String.raw`^(@/|(\.\./)+)(core/|folders|bridge|storage|demo|worker|app|ui)`,
              message: 'The stand-in game knows nothing but a Folder.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['src/{folders,storage,demo,worker}/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: restrict(PAST_THE_DOOR, {
      regex: String.raw`^(@/|(\.\./)+)bridge/(?!wire$)`,
      message: 'The page knows of the server only what goes over the wire.',
    }),
  },
  {
    files: ['src/bridge/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: restrict(PAST_THE_DOOR, {
      regex: String.raw`^(@/|(\.\./)+)(storage|trial|demo|worker|app|ui)(/|$)`,
      message: 'The server half knows the core and folders only.',
    }),
  },
  {
    files: ['src/ui/**/*.{ts,tsx}'],
    rules: restrict(
      PAST_THE_DOOR,
      { regex: String.raw`^@/(folders|bridge|storage|trial|demo)(/|$)`, message: 'The view asks the worker.' },
      { regex: '^@/worker/(?!contract(/connect)?$)', message: 'The view knows the worker by its contract.' },
    ),
  },
  {
    files: ['src/app/**/*.{ts,tsx}'],
    rules: { ...restrict(PAST_THE_DOOR), 'max-lines': ['error', 40], complexity: ['error', 4] },
  },
  {
    files: ['**/*.test.ts', 'tests/**', 'e2e/**', 'bench/**'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
    },
  },
);
