// What every station of a place has: a name, what is wrong with it, and an end.

export type Station = {
  readonly name: string;
  /** What does not work now, in words, with what it means for the alerts; nothing while all is well. */
  problem(): readonly string[];
  /** What someone should look at, and keeps no alert back. */
  notices?(): readonly string[];
  close(): Promise<void>;
};

/** A station of which nothing can be wrong by itself, or that has nothing to end. */
export const station = (name: string, { problem = () => [], notices = () => [], close = async () => {} }: Partial<Station>): Station => ({
  name,
  problem,
  notices,
  close,
});
