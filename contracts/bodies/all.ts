export * from './audit';
export * from './charts';
export * from './evidence';
export * from './loads';
export * from './people';
export * from './reading';
export { BODY_MAX, TOO_LARGE } from './shared';
export * from './statements';
export * from './threads';
