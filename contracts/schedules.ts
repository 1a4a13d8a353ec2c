/** How often something is made by itself: at moments, on each load, or when a condition comes true. */
export const EVERY = ['once', 'daily', 'weekly', 'monthly', 'load', 'condition'] as const;
export type Every = (typeof EVERY)[number];
