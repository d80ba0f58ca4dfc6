export * from './basics.js';
export * from './commands.js';
export * from './cycle.js';
export * from './problem.js';
export * from './routes.js';
export * from './specs.js';
export * from './shop.js';
export * from './views.js';
