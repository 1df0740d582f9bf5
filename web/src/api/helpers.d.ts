/**
 * The helpers that openapi-fetch is typed by, but for two: nothing of ours is only read or only written, and theirs turn
 * tuples into arrays. `tsconfig` has this file in their place.
 */
export * from '../../node_modules/openapi-typescript-helpers/dist/index.mjs'
export type Readable<T> = T
export type Writable<T> = T
