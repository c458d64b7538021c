import { builtinModules } from 'node:module';
import { defineConfig, globalIgnores } from 'eslint/config';
import globals from 'globals';
import jsdoc from 'eslint-plugin-jsdoc';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const bareNodeModules = builtinModules.filter((name) => !name.startsWith('_'));
const esOnly = new Set(Object.keys(globals.es2024 ?? globals.builtin));
const hostGlobals = [
  ...new Set([globals.browser, globals.node, globals.worker, globals.audioWorklet ?? {}].flatMap((set) => Object.keys(set))),
].filter((name) => !esOnly.has(name));
const why = 'core/ must run anywhere: no app/, server/, Node or browser API. Pass it in as a parameter.';

export default defineConfig([
  globalIgnores(['core/dsp/kernels/assembly', 'build', 'build-tools', '.data', '.react-router', 'node_modules', 'test-results']),
  tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.object.name='Promise'] > ArrayExpression > * > AwaitExpression",
          message: 'While this waits, nobody hears the others fail, which ends the process: await it before.',
        },
      ],
    },
  },
  {
    files: ['server/services/**/*.ts', 'server/storage/**/*.ts', 'server/jobs/**/*.ts', 'app/**/*.ts', 'app/**/*.tsx'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['TemplateElement[value.raw', 'Literal[value'].map((node) => ({
          selector: `${node}=/^\\s*(select .* from|select \\$|insert into|update \\w+( \\w+)? set|delete from|with \\w+ as) /i]`,
          message: 'SQL lies in server/db/queries.',
        })),
        {
          selector: "CallExpression[callee.object.name='Promise'] > ArrayExpression > * > AwaitExpression",
          message: 'While this waits, nobody hears the others fail, which ends the process: await it before.',
        },
      ],
    },
  },
  { plugins: { 'react-hooks': reactHooks }, rules: reactHooks.configs.recommended.rules, files: ['app/**/*.{ts,tsx}'] },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts', 'core/synth/voices/**'],
    plugins: { jsdoc },
    rules: {
      // What others call says what it is about: shapes, units, errors.
      'jsdoc/require-jsdoc': [
        'error',
        {
          publicOnly: true,
          enableFixer: false,
          require: { FunctionDeclaration: true, ArrowFunctionExpression: true, ClassDeclaration: true },
        },
      ],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          paths: bareNodeModules.map((name) => ({ name, message: why })),
          patterns: [
            {
              group: [
                'node:*',
                '~/*',
                '~server/*',
                '~workers/*',
                '~demo/*',
                '**/app/**',
                '**/server/**',
                'react',
                'react-dom',
                'react-router',
                '@react-router/*',
                'sequelize',
                'pg',
                'express',
                'd3-selection',
              ],
              message: why,
            },
          ],
        },
      ],
      'no-restricted-globals': ['error', ...hostGlobals.map((name) => ({ name, message: why }))],
      'no-restricted-syntax': [
        'error',
        { selector: 'ImportExpression', message: 'No dynamic import in core/: the import rule cannot see it.' },
        { selector: "MemberExpression[object.name='globalThis']", message: why },
        { selector: "CallExpression[callee.name='require']", message: why },
      ],
    },
  },
]);
