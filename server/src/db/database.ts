// SQLite (WAL) through Sequelize: opening it, and writing one after the other.

import { statSync } from 'node:fs';
import path from 'node:path';
import { QueryTypes, Sequelize, Transaction, type Options } from 'sequelize';
import sqlite3 from 'sqlite3';
import { log } from '../base/log';
import { migrate } from './migrations';
import { openReserve } from './reserve';
import { isOfDisk } from './disk-problem';
import { tablesOf, type Tables } from './tables';

export type Database = {
  readonly tables: Tables;
  readonly sequelize: Sequelize;
  /** Writes one after the other, each whole or not at all. */
  write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>;
  /** As `write`, with the room that is kept back where the disk is full: for what lets someone in to free more. */
  writeAnyway<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>;
  /** Keeps room back again, where there is some. */
  keepRoom(): void;
  /** On the disk. */
  bytes(): number;
  close(): Promise<void>;
};

/**
 * What is safe is on disk before anything goes on. What is being made again, and is thrown away where it is broken off, need not be: it is
 * written many at a time.
 */
export type Haste = 'safe' | 'can be recreated';
const writesAtOnce = 100;

/** Another process that holds the database is waited for so long. */
const busyMs = 4000;
const patient = {
  ...sqlite3,
  Database: class extends sqlite3.Database {
    constructor(...given: ConstructorParameters<typeof sqlite3.Database>) {
      super(...given);
      this.configure('busyTimeout', busyMs);
    }
  },
};

/**
 * Sequelize writes down for each query where it was asked, whether it fails or not, which takes a third of its time. One that fails says what the
 * database said of it instead.
 */
function withoutTraces(sequelize: Sequelize): void {
  const { dialect } = sequelize as unknown as {
    readonly dialect: { Query: new (...of: never[]) => { run(...of: never[]): Promise<unknown> } };
  };
  const started = (run: () => Promise<unknown>): Promise<unknown> => {
    const { stackTraceLimit } = Error;
    Error.stackTraceLimit = 0;
    try {
      return run();
    } finally {
      Error.stackTraceLimit = stackTraceLimit;
    }
  };
  dialect.Query = class extends dialect.Query {
    override run(...of: never[]): Promise<unknown> {
      return started(() => super.run(...of)).catch((thrown: Error) => {
        thrown.stack = `${thrown.name}: ${thrown.message}`;
        throw thrown;
      });
    }
  };
}

type Connection = { close(done: (error: Error | null) => void): void };
type Connections = {
  getConnection(asked?: { readonly uuid?: string }): Promise<Connection>;
  releaseConnection(connection: Connection): unknown;
  readonly connections: { [uuid: string]: Connection };
};

/**
 * Sequelize opens a connection for each transaction, which reads the whole schema each time. Writes come one after the other, and share one.
 * @returns lets go of it: after a failure nobody knows what is still open on it
 */
function withOneWriter({ connectionManager }: Sequelize): () => Promise<void> {
  const manager = connectionManager as unknown as Connections;
  const open = manager.getConnection.bind(manager);
  const writer = 'writer';
  manager.getConnection = (asked) => open(asked?.uuid === undefined ? asked : { ...asked, uuid: writer });
  manager.releaseConnection = () => {};
  return async () => {
    const connection = manager.connections[writer];
    delete manager.connections[writer];
    if (connection) await new Promise<void>((closed) => connection.close(() => closed()));
  };
}

const storageIn = (dataFolder: string) => path.join(dataFolder, 'nibber.sqlite');

function connect(storage: string, more: Options = {}): Sequelize {
  const logging = (sql: string) => log.trace({ sql });
  const sequelize = new Sequelize({ dialect: 'sqlite', dialectModule: patient, storage, logging, retry: { max: 1 }, ...more });
  withoutTraces(sequelize);
  return sequelize;
}

/** For reading alone, where it was opened before. */
export function openReader(dataFolder: string): Database {
  const storage = storageIn(dataFolder);
  const sequelize = connect(storage, { dialectOptions: { mode: sqlite3.OPEN_READONLY } });
  const refused = () => Promise.reject(new Error('This connection only reads.'));
  return {
    tables: tablesOf(sequelize),
    sequelize,
    write: refused,
    writeAnyway: refused,
    keepRoom: () => {},
    bytes: () => bytesOf(storage),
    close: () => sequelize.close(),
  };
}

const bytesOf = (storage: string) =>
  [storage, `${storage}-wal`].reduce((sum, file) => sum + (statSync(file, { throwIfNoEntry: false })?.size ?? 0), 0);

export async function openDatabase(dataFolder: string, haste: Haste = 'safe'): Promise<Database> {
  const storage = storageIn(dataFolder);
  const sequelize = connect(storage);
  const dropWriter = withOneWriter(sequelize);
  // Kept in the file. SQLite syncs fully by itself (synchronous = FULL): a committed event is on disk, also when the power goes.
  await sequelize.query('PRAGMA journal_mode = WAL', { type: QueryTypes.SELECT });
  await migrate(storage);
  let turn: Promise<unknown> = Promise.resolve();
  let open: { readonly transaction: Transaction; writes: number } | undefined;
  const end = async () => {
    await open?.transaction.commit();
    open = undefined;
  };
  const together = async <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> => {
    open ??= { transaction: await sequelize.transaction(), writes: 0 };
    const result = await work(open.transaction);
    if (++open.writes >= writesAtOnce) await end();
    return result;
  };
  const reserve = haste === 'safe' ? openReserve(dataFolder) : undefined;
  const write: Database['write'] = (work) => {
    // The lock is taken at once, so that it is waited for before anything is done, and not refused in the middle.
    const run = turn.then(() => (haste === 'safe' ? sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, work) : together(work)));
    turn = run.catch(haste === 'safe' ? dropWriter : () => undefined);
    return run;
  };
  return {
    tables: tablesOf(sequelize),
    sequelize,
    write,
    writeAnyway: (work) =>
      write(work).catch((thrown: unknown) => {
        if (isOfDisk(thrown) && reserve?.release()) return write(work);
        throw thrown;
      }),
    keepRoom: () => reserve?.fill(),
    bytes: () => bytesOf(storage),
    async close() {
      await turn;
      await end();
      await sequelize.close();
    },
  };
}

/** Of what is kept, that which happened by itself: no walk test made it happen. */
export const byItself = { test: null } as const;
