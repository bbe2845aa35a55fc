import { defineConfig } from '@playwright/test';
import tests from './playwright.config.ts';

/** Takes the pictures of docs/screenshots anew: `npm run pictures`. */
export default defineConfig({ ...tests, testMatch: '*.pictures.ts' });
