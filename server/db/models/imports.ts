import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { DuplicateWay } from '~core/imports/options';
import type { BatchState, FileState } from '~core/imports/states';
import { sequelize } from '../connection';

export class ImportBatch extends Model<InferAttributes<ImportBatch>, InferCreationAttributes<ImportBatch>> {
  declare id: CreationOptional<number>;
  declare personId: number;
  declare packId: CreationOptional<number | null>;
  declare packName: string;
  declare vendor: string;
  declare licence: string;
  declare description: string;
  /** Put on every loop of it. */
  declare tags: CreationOptional<string[]>;
  /** Folders and endings that are not taken in. */
  declare leaveOut: CreationOptional<string[]>;
  declare duplicates: CreationOptional<DuplicateWay>;
  declare state: BatchState;
  declare message: CreationOptional<string | null>;
  /** The folder of this machine that it comes from; null: sent by a browser. */
  declare folderId: CreationOptional<number | null>;
  declare createdAt: CreationOptional<Date>;
  /** When it last received something. */
  declare touchedAt: CreationOptional<Date>;
  declare finishedAt: CreationOptional<Date | null>;
  /** Since when what it brought in is archived with it. */
  declare takenBackAt: CreationOptional<Date | null>;
}
ImportBatch.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    personId: DataTypes.INTEGER,
    packId: DataTypes.INTEGER,
    packName: DataTypes.TEXT,
    vendor: DataTypes.TEXT,
    licence: DataTypes.TEXT,
    description: DataTypes.TEXT,
    tags: { type: DataTypes.ARRAY(DataTypes.TEXT), defaultValue: [] },
    leaveOut: { type: DataTypes.ARRAY(DataTypes.TEXT), defaultValue: [] },
    duplicates: { type: DataTypes.TEXT, defaultValue: 'skip' },
    state: DataTypes.TEXT,
    message: DataTypes.TEXT,
    folderId: DataTypes.INTEGER,
    createdAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
    touchedAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
    finishedAt: DataTypes.DATE,
    takenBackAt: DataTypes.DATE,
  },
  { sequelize, tableName: 'import_batches' },
);

export class ImportFile extends Model<InferAttributes<ImportFile>, InferCreationAttributes<ImportFile>> {
  declare id: CreationOptional<number>;
  declare batchId: number;
  declare path: string;
  declare bytes: number;
  declare fileSha256: CreationOptional<string | null>;
  declare state: FileState;
  declare message: CreationOptional<string | null>;
  declare loopId: CreationOptional<number | null>;
}
ImportFile.init(
  {
    id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
    batchId: DataTypes.INTEGER,
    path: DataTypes.TEXT,
    bytes: DataTypes.BIGINT,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    state: DataTypes.TEXT,
    message: DataTypes.TEXT,
    loopId: DataTypes.INTEGER,
  },
  { sequelize, tableName: 'import_files' },
);

/** A folder of this machine from which a keeper lets loops come in. */
export class WatchedFolder extends Model<InferAttributes<WatchedFolder>, InferCreationAttributes<WatchedFolder>> {
  declare id: CreationOptional<number>;
  declare path: string;
  declare personId: number;
  declare packId: CreationOptional<number | null>;
  declare packName: string;
  declare vendor: string;
  declare licence: string;
  declare description: string;
  declare tags: CreationOptional<string[]>;
  declare leaveOut: CreationOptional<string[]>;
  declare duplicates: CreationOptional<DuplicateWay>;
  /** Looked at again and again; else only when somebody asks. */
  declare isWatched: CreationOptional<boolean>;
  declare message: CreationOptional<string | null>;
  declare lookedAt: CreationOptional<Date | null>;
  /** So many files were still being written then. */
  declare growing: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
}
WatchedFolder.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    path: DataTypes.TEXT,
    personId: DataTypes.INTEGER,
    packId: DataTypes.INTEGER,
    packName: DataTypes.TEXT,
    vendor: DataTypes.TEXT,
    licence: DataTypes.TEXT,
    description: DataTypes.TEXT,
    tags: { type: DataTypes.ARRAY(DataTypes.TEXT), defaultValue: [] },
    leaveOut: { type: DataTypes.ARRAY(DataTypes.TEXT), defaultValue: [] },
    duplicates: { type: DataTypes.TEXT, defaultValue: 'skip' },
    isWatched: { type: DataTypes.BOOLEAN, defaultValue: false },
    message: DataTypes.TEXT,
    lookedAt: DataTypes.DATE,
    growing: { type: DataTypes.INTEGER, defaultValue: 0 },
    createdAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
  },
  { sequelize, tableName: 'watched_folders' },
);

/** A file of such a folder as it was when it was taken in. */
export class FolderFile extends Model<InferAttributes<FolderFile>, InferCreationAttributes<FolderFile>> {
  declare folderId: number;
  /** From the folder on. */
  declare path: string;
  declare bytes: number;
  declare modifiedMs: number;
  declare fileSha256: string;
  /** Under which it went into the library; another than its own when it was changed or moved since. */
  declare vendorPath: string;
}
FolderFile.init(
  {
    folderId: { type: DataTypes.INTEGER, primaryKey: true },
    path: { type: DataTypes.TEXT, primaryKey: true },
    bytes: DataTypes.BIGINT,
    modifiedMs: DataTypes.DOUBLE,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    vendorPath: DataTypes.TEXT,
  },
  { sequelize, tableName: 'folder_files' },
);
