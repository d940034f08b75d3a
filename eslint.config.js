import js from '@eslint/js';
import { defineConfig, globalIgnores } from 'eslint/config';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

export default defineConfig(
	globalIgnores([
		'build/',
		'build-node/',
		'.svelte-kit/',
		'store/migrations/',
		'test-results/',
		'playwright-report/',
		'.data/',
		'.test/',
		'core/linalg/kernel/kernel.as.ts',
		'core/linalg/kernel/bytes.ts'
	]),
	js.configs.recommended,
	ts.configs.recommended,
	svelte.configs.recommended,
	prettier,
	svelte.configs.prettier,
	{
		languageOptions: { globals: { ...globals.browser, ...globals.node } },
		rules: {
			'no-undef': 'off', // TypeScript checks it
			'svelte/no-navigation-without-resolve': 'off', // the app is served from the root only
			'svelte/prefer-svelte-reactivity': 'off', // Set and Date here are local and short-lived, never shown state
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }]
		}
	},
	{
		// a function of core is read on a screen; a longer one says beside it why
		files: ['core/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: {
			'max-lines-per-function': ['error', { max: 100, skipBlankLines: true, skipComments: true }],
			complexity: ['error', 20]
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts', '**/*.svelte.js'],
		languageOptions: {
			parserOptions: { projectService: true, extraFileExtensions: ['.svelte'], parser: ts.parser, svelteConfig }
		}
	}
);
