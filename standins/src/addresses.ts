/** Where each stand-in answers; `time` is host:port of the time server, the others are URLs. */
export type StandinAddresses = {
  readonly stage: string;
  readonly pocket: string;
  readonly push: string;
  readonly describer: string;
  readonly time: string;
};
