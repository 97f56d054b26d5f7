import { afterAll } from 'vitest';
import { startApplication } from './application';

/** The application with the demo, of one test file alone: none sees what another has done. */
export const house = await startApplication();
export const { origin } = house;
afterAll(house.stop);
