import type { ThemeConfig } from 'flowbite-svelte';

/** What all furniture has in common beyond the tokens of app.css: a target is as high as a thumb needs, 44 px. */
export const THEME: ThemeConfig = { button: { base: 'min-h-11' } };
