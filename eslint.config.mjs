import js from '@eslint/js';
import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import { importX } from 'eslint-plugin-import-x';
import ts from 'typescript-eslint';

/** What each part may import; the arrows of the house run one way. */
const forbidden = {
  core: ['@coffer/*', 'node:*', '@angular/*', 'express', 'knex', 'valibot'],
  contract: ['@coffer/server', '@coffer/web', '@coffer/cli', 'node:*', '@angular/*', 'express', 'knex'],
  cli: ['@coffer/server', '@coffer/web', '@angular/*', 'express', 'knex'],
  server: ['@coffer/web', '@coffer/cli', '@angular/*'],
  web: ['@coffer/server', '@coffer/cli', 'node:*', 'express', 'knex'],
};

const arrows = 'web, server and cli depend on contract, contract on core';

const layering = Object.entries(forbidden).map(([part, patterns]) => ({
  files: [`${part}/src/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { group: patterns, message: `${part} must not depend on this: ${arrows}.` },
          {
            regex: '^(\\.\\./){2,}(core|contract|cli|server|web|e2e|bench|scripts)/',
            message: `Another part is imported by its package name, where the arrows allow it: ${arrows}.`,
          },
        ],
      },
    ],
  },
}));

/** Names of kinds of instruments; which one an instrument is, only the registries of kinds look at. */
const kindNames = '/^(loan|credit-line|bond|fund)$/';
const useTheKind = 'Ask the kind object (kindOf, documentKindOf, viewKindOf) in place of comparing kinds.';

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/.angular/**',
      '.coffer/**',
      '.coffer-own/**',
      '**/node_modules/**',
      '**/test-results/**',
    ],
  },
  js.configs.recommended,
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
      },
    },
  },
  {
    files: ['**/*.ts'],
    extends: [ts.configs.strict, ts.configs.stylistic],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/explicit-module-boundary-types': 'error',
      '@typescript-eslint/no-extraneous-class': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      eqeqeq: 'error',
      'max-lines': ['error', { max: 350, skipBlankLines: true, skipComments: true }],
      'no-console': ['error', { allow: ['error'] }],
    },
  },
  {
    files: ['{core,contract,cli,server,web}/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['BinaryExpression[operator=/^[!=]==$/] > Literal', 'SwitchCase > Literal'].map((literal) => ({
          selector: `${literal}[value=${kindNames}]`,
          message: useTheKind,
        })),
      ],
    },
  },
  {
    files: ['{core,contract,cli,server,bench}/src/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
  },
  {
    // Pages, their tests and their workers are programs of their own.
    files: ['web/src/**/*.ts'],
    languageOptions: {
      parserOptions: {
        project: ['', '.dom', '.worker'].map((of) => `web/tsconfig${of}.json`),
        tsconfigRootDir: import.meta.dirname,
      },
    },
  },
  {
    // What only types can tell: a promise that nobody waits for, and what is of no known type.
    files: ['{core,contract,cli,server,bench,web}/src/**/*.ts'],
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
    },
  },
  {
    files: ['{core,contract,cli,server,bench,web}/src/**/*.ts'],
    // Tests look into answers of every shape.
    ignores: ['**/*.test.ts', '**/testing/**'],
    rules: Object.fromEntries(
      ['assignment', 'argument', 'call', 'member-access', 'return'].map((what) => [
        `@typescript-eslint/no-unsafe-${what}`,
        'error',
      ]),
    ),
  },
  {
    // Files that import each other can be read only together.
    files: ['{core,contract,cli,server,web}/src/**/*.ts'],
    plugins: { 'import-x': importX },
    settings: { 'import-x/extensions': ['.ts'], 'import-x/resolver': { node: { extensions: ['.ts'] } } },
    rules: { 'import-x/no-cycle': ['error', { ignoreExternal: true }] },
  },
  { files: ['bench/**/*.ts'], rules: { 'no-console': 'off' } },
  {
    files: ['web/src/**/*.ts'],
    extends: [angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      // Angular's injector reads constructor types and decorators; classes are its unit.
      '@typescript-eslint/consistent-type-imports': 'off',
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [angular.configs.templateRecommended, angular.configs.templateAccessibility],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: `Binary[operation=/^[!=]==$/] > LiteralPrimitive[value=${kindNames}]`,
          message: useTheKind,
        },
      ],
    },
  },
  ...layering,
  prettier,
);
