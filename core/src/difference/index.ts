// What changed between two site files, in words.

export * from './changes';
export { changesAt, revertChange } from './revert';
