/** The demo's keeper, whose password nobody needs: `./tevrik demo` signs in by a button. Addresses under .example reach nobody. */
export const DEMO_EMAIL = 'odile@boathouse.example';
export const DEMO_PASSWORD = 'demo keeper';
/** Whether this server was started to show the demo. */
export const isDemo = (): boolean => process.env['TEVRIK_DEMO'] === '1';
