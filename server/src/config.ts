// All that is set from outside, read once.

import path from 'node:path';

export type Config = {
  readonly port: number;
  readonly dataFolder: string;
  /** The key that seals secrets; it stands beside the database and never in it. */
  readonly keyFile: string;
  /** A site file to apply at start. */
  readonly siteFile: string | undefined;
  readonly modelFolder: string | undefined;
  /** SNTP server to take the time of the place from, host:port; this machine's clock if absent. */
  readonly timeServer: string | undefined;
  /** What phones reach this server by. */
  readonly publicUrl: string;
  readonly describer: { readonly url: string; readonly model: string; readonly key: string | undefined } | undefined;
  readonly clientFolder: string;
};

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const port = Number(env.PORT ?? 8080);
  const dataFolder = path.resolve(env.NIBBER_DATA ?? '.data');
  return {
    port,
    dataFolder,
    keyFile: path.resolve(env.NIBBER_KEY_FILE ?? path.join(dataFolder, 'secrets.key')),
    siteFile: env.NIBBER_SITE,
    modelFolder: env.NIBBER_MODEL,
    timeServer: env.NIBBER_TIME_SERVER,
    publicUrl: env.NIBBER_PUBLIC_URL ?? `http://127.0.0.1:${port}`,
    describer: env.NIBBER_DESCRIBER_URL
      ? { url: env.NIBBER_DESCRIBER_URL, model: env.NIBBER_DESCRIBER_MODEL ?? 'default', key: env.NIBBER_DESCRIBER_KEY }
      : undefined,
    clientFolder: path.join(__dirname, '..', '..', 'client', 'dist'),
  };
}
