/** Where each stand-in answers; `time` and `mail` are host:port of the time server and the mail server, the others are URLs. */
export type StandinAddresses = {
  readonly stage: string;
  readonly pocket: string;
  readonly push: string;
  readonly describer: string;
  readonly time: string;
  /** The mailbox's page. */
  readonly mailbox: string;
  readonly mail: string;
  /** Where webhooks and text messages are taken. */
  readonly receivers: string;
  readonly broker: string;
};
