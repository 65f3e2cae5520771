// The ways on which people, animals and vehicles cross the place.

/** A way across the place: ground points in metres, walked at a speed; `pauseSeconds` at its last point before it leaves. */
export type Walk = {
  readonly words: string;
  readonly points: readonly (readonly [x: number, z: number])[];
  readonly metresASecond: number;
  readonly pauseSeconds?: number;
};

/** To a place of one's own where people wait for their canoes. */
const counter = (n: number, x: number, z: number) => ({
  words: `to the counter, place ${n}`,
  points: [
    [5, -17.2],
    [0.7, -14.2],
    [x, z],
  ] as const,
  metresASecond: 1.4,
  pauseSeconds: 60,
});

export const walks = {
  'lane-to-yard': {
    words: 'from the lane into the yard',
    points: [
      [-9, -17.2],
      [-3.5, -16.8],
      [0.2, -14.6],
      [0.9, -11],
      [-1.4, -7.2],
    ],
    metresASecond: 1.5,
    pauseSeconds: 6,
  },
  'along-lane': {
    words: 'along the lane',
    points: [
      [-16, -17.6],
      [16, -17.4],
    ],
    metresASecond: 1.5,
  },
  'yard-to-lane': {
    words: 'out of the yard',
    points: [
      [-3.5, -6.6],
      [0.4, -10.5],
      [0.6, -14.4],
      [9, -17.4],
    ],
    metresASecond: 1.4,
  },
  'across-yard': {
    words: 'across the yard',
    points: [
      [-5.6, -7.4],
      [5.8, -8.8],
    ],
    metresASecond: 1.2,
  },
  'lane-wait': {
    words: 'in the lane, waiting',
    points: [
      [-9, -17.4],
      [1.6, -16.4],
    ],
    metresASecond: 1.4,
    pauseSeconds: 20,
  },
  'drive-by': {
    words: 'driving along the lane',
    points: [
      [-24, -16.9],
      [24, -16.9],
    ],
    metresASecond: 6,
  },
  'drive-in': {
    words: 'driving into the yard',
    // It ends side on: a car seen from the front alone is hard to know for one.
    points: [
      [16, -17.2],
      [4, -16.8],
      [0.4, -14],
      [-2.6, -10.6],
      [2, -9.8],
    ],
    metresASecond: 3,
    pauseSeconds: 15,
  },
  'drive-up': {
    words: 'driving into the yard and up to the camera',
    // It ends half side on: its plate shows, and what is written on its side.
    points: [
      [16, -17.2],
      [4, -16.8],
      [3, -14.8],
      [-0.2, -10.3],
    ],
    metresASecond: 3,
    pauseSeconds: 15,
  },
  'to-racks': {
    words: 'from the lane to the racks',
    points: [
      [8, -17.3],
      [2, -16.6],
      [0.6, -13.2],
      [-3.6, -9.4],
      [-6.9, -8.4],
    ],
    metresASecond: 1.4,
    pauseSeconds: 32,
  },
  'from-racks': {
    words: 'from the racks to the lane',
    points: [
      [-6.9, -8.4],
      [-3.6, -9.4],
      [0.6, -13.2],
      [2, -16.6],
      [14, -17.3],
    ],
    metresASecond: 1.2,
  },
  'onto-jetty': {
    words: 'onto the jetty and along it',
    points: [
      [-77, 13.2],
      [-71.4, 14.6],
      [-70, 18],
      [-70.2, 31],
    ],
    metresASecond: 1.3,
    pauseSeconds: 8,
  },
  'off-jetty': {
    words: 'off the jetty',
    points: [
      [-69.8, 31],
      [-70, 18],
      [-68.4, 14.6],
      [-62, 13.4],
    ],
    metresASecond: 1.3,
  },
  'jetty-steps': {
    words: 'to the steps of the jetty, waiting',
    points: [
      [-76, 14.4],
      [-70.6, 15.4],
    ],
    metresASecond: 1.2,
    pauseSeconds: 30,
  },
  'through-workshop': {
    words: 'about the workshop',
    points: [
      [66.8, -5.6],
      [67.4, -2],
      [70.2, -1.2],
      [73.2, -2.4],
      [73, -3.4],
    ],
    metresASecond: 0.9,
    pauseSeconds: 10,
  },
  'counter-1': counter(1, -3.2, -9.4),
  'counter-2': counter(2, -1.8, -8.6),
  'counter-3': counter(3, -0.5, -9.6),
  'counter-4': counter(4, 0.8, -8.6),
  'counter-5': counter(5, 2.1, -9.6),
  'counter-6': counter(6, 3.3, -8.6),
  'counter-7': counter(7, 4.4, -9.8),
  'counter-8': counter(8, -4.3, -8.4),
  'porch-door': {
    words: 'to the porch door, waiting',
    points: [
      [1.5, -9.5],
      [4.6, -7.6],
    ],
    metresASecond: 1.2,
    pauseSeconds: 30,
  },
} as const satisfies Record<string, Walk>;
export type WalkName = keyof typeof walks;
