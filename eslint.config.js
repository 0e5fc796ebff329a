import js from '@eslint/js';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import importX from 'eslint-plugin-import-x';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

import svelteConfig from './web/svelte.config.js';

/** The core computes; it knows no screen, no server, no clock and no chance of its own. */
const CORE_MAY_NOT = [
  {
    group: [
      '@baumkin/web',
      '**/web/**',
      '$lib/*',
      '$app/*',
      'svelte',
      'svelte/*',
      '@sveltejs/*',
      'sequelize',
      'node:*'
    ],
    message: 'core imports nothing of the web, of storage or of Node.'
  }
];

export default ts.config(
  {
    ignores: [
      '**/build/',
      '**/dist/',
      '**/build-cli/',
      '**/.svelte-kit/',
      '.baumkin/',
      '**/node_modules/',
      'test-results/'
    ]
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  {
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true }
      ],
      '@typescript-eslint/consistent-type-imports': 'error',
      // More than four in a row cannot be read at the call: then an object says which is which.
      '@typescript-eslint/max-params': ['error', { max: 4 }],
      // Addresses here are plain paths: the app is served from the root.
      'svelte/no-navigation-without-resolve': 'off'
    }
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig } }
  },
  {
    // These modules build plain values from state; the rule takes every Map and Date for state itself.
    files: ['**/*.svelte.ts'],
    rules: { 'svelte/prefer-svelte-reactivity': 'off' }
  },
  {
    files: ['core/src/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: CORE_MAY_NOT }],
      'no-restricted-globals': ['error', 'window', 'document', 'fetch', 'process', 'localStorage', 'performance'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Pass in a seeded generator.' },
        { object: 'Date', property: 'now', message: 'Pass in the day.' }
      ]
    }
  },
  {
    // Imports go one way: whoever reads a file need not read one that reads it.
    files: ['**/*.ts', '**/*.mjs'],
    plugins: { 'import-x': importX },
    settings: {
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts'] },
      'import-x/ignore': ['\\.svelte$'],
      'import-x/extensions': ['.ts', '.mjs', '.js'],
      'import-x/resolver-next': [
        createTypeScriptImportResolver({
          project: ['web/tsconfig.json', 'core/tsconfig.json'],
          conditionNames: ['@baumkin/source', 'types', 'import', 'default'],
          noWarnOnMultipleProjects: true
        })
      ]
    },
    rules: { 'import-x/no-cycle': ['error', { ignoreExternal: true }] }
  },
  {
    // A row of a test's table is a list.
    files: ['core/test/**', 'web/test/**'],
    rules: { '@typescript-eslint/max-params': 'off' }
  },
  {
    // Lower layers know nothing of higher ones: routes -> lib -> core.
    files: ['web/src/lib/**/*'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/routes/**'], message: 'lib knows nothing of routes.' }] }
      ]
    }
  }
);
