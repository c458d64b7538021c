import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { FitDefaults } from '~core/arrangement/fit-settings';
import type { Detail } from '~core/analysis/analysis';
import type { PartVersions } from '~core/analysis/parts';
import type { LoopKind } from '~core/analysis/attributes/loop-kinds';
import type { Attribute, Candidate } from '~core/analysis/facts';
import type { Source } from '~core/analysis/sources';
import type { DocumentKind } from '~core/formats/documents';
import type { Family } from '~core/theory/instruments';
import type { Mode } from '~core/theory/key';
import { sequelize } from '../connection';
import { factColumnTypes, type FactColumns } from './fact-columns';

// Sequelize writes into the objects it is given, so each column gets its own.
const id = () => ({ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true });
const now = () => ({ type: DataTypes.DATE, defaultValue: DataTypes.NOW });

export class Pack extends Model<InferAttributes<Pack>, InferCreationAttributes<Pack>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare vendor: string;
  declare licence: string;
  declare description: string;
  declare addedBy: number;
  declare addedAt: CreationOptional<Date>;
  declare archivedAt: CreationOptional<Date | null>;
  /** The picture that is shown of it; null: drawn from its sound. */
  declare coverId: CreationOptional<number | null>;
  /** Made here, of what the group gives back. */
  declare isOwn: CreationOptional<boolean>;
}
Pack.init(
  {
    id: id(),
    name: DataTypes.TEXT,
    vendor: DataTypes.TEXT,
    licence: DataTypes.TEXT,
    description: DataTypes.TEXT,
    addedBy: DataTypes.INTEGER,
    addedAt: now(),
    archivedAt: DataTypes.DATE,
    coverId: DataTypes.INTEGER,
    isOwn: { type: DataTypes.BOOLEAN, defaultValue: false },
  },
  { sequelize, tableName: 'packs' },
);

export class PackDocument extends Model<InferAttributes<PackDocument>, InferCreationAttributes<PackDocument>> {
  declare id: CreationOptional<number>;
  declare packId: number;
  /** Where it lay in what came in. */
  declare path: string;
  declare kind: DocumentKind;
  declare mediaType: string;
  declare bytes: number;
  declare fileSha256: string;
  declare addedAt: CreationOptional<Date>;
}
PackDocument.init(
  {
    id: id(),
    packId: DataTypes.INTEGER,
    path: DataTypes.TEXT,
    kind: DataTypes.TEXT,
    mediaType: DataTypes.TEXT,
    bytes: DataTypes.BIGINT,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    addedAt: now(),
  },
  { sequelize, tableName: 'pack_documents' },
);

export class LoopSet extends Model<InferAttributes<LoopSet>, InferCreationAttributes<LoopSet>> {
  declare id: CreationOptional<number>;
  declare packId: number;
  declare stem: string;
}
LoopSet.init({ id: id(), packId: DataTypes.INTEGER, stem: DataTypes.TEXT }, { sequelize, tableName: 'sets' });

export class Loop extends Model<InferAttributes<Loop>, InferCreationAttributes<Loop>> {
  declare id: CreationOptional<number>;
  declare packId: number;
  declare setId: number | null;
  declare media: 'audio' | 'midi';
  declare title: string;
  declare fileName: string;
  declare vendorPath: string;
  declare fileSha256: string;
  declare fileFormat: string;
  declare soundSha256: string;
  declare soundFrames: number;
  declare lengthSeconds: number;
  declare firstBarSeconds: number;
  declare kind: LoopKind;
  declare tempoBpm: number | null;
  declare beats: number | null;
  declare bars: number | null;
  declare meter: string | null;
  declare keyTonic: number | null;
  declare keyMode: Mode | null;
  declare pitched: boolean | null;
  declare instrument: string | null;
  declare family: Family | null;
  declare tempoConfidence: number | null;
  declare keyConfidence: number | null;
  declare kindConfidence: number | null;
  declare instrumentConfidence: number | null;
  declare loudnessLufs: number | null;
  declare peakDbfs: number | null;
  declare tuningCents: number | null;
  declare overview: Buffer;
  declare onsetFrames: number[];
  declare faintFrames: CreationOptional<number[]>;
  /** Where a wandering player's beats fall, in frames of the sound; empty where time is even. */
  declare beatFrames: CreationOptional<number[]>;
  declare fitDefaults: CreationOptional<FitDefaults>;
  declare chroma: number[];
  declare detail: CreationOptional<Detail | null>;
  /** 32 signed bytes, see `likenessOf`; null for notes and silence. */
  declare likeness: CreationOptional<Buffer | null>;
  /** Words of 32 bits, little-endian, see `fingerprint`. */
  declare fingerprint: CreationOptional<Buffer | null>;
  /** What fit and likeness go by, see `profileOf`; null where it is still to be made. */
  declare profile: CreationOptional<Buffer | null>;
  declare analyserVersion: number;
  /** Version of each part of the analysis that heard it. */
  declare heardBy: CreationOptional<PartVersions>;
  declare searchText: string;
  /** Of what was made here: licences of what it was made of. */
  declare madeUnder: CreationOptional<string | null>;
  declare addedBy: number;
  declare addedAt: CreationOptional<Date>;
  declare archivedAt: CreationOptional<Date | null>;
}
Loop.init(
  {
    id: id(),
    packId: DataTypes.INTEGER,
    setId: DataTypes.INTEGER,
    media: DataTypes.TEXT,
    title: DataTypes.TEXT,
    fileName: DataTypes.TEXT,
    vendorPath: DataTypes.TEXT,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    fileFormat: DataTypes.TEXT,
    soundSha256: { type: DataTypes.CHAR(64), field: 'sound_sha256' },
    soundFrames: DataTypes.INTEGER,
    lengthSeconds: DataTypes.DOUBLE,
    ...(factColumnTypes() as Record<keyof FactColumns, DataTypes.AbstractDataTypeConstructor>),
    loudnessLufs: DataTypes.REAL,
    peakDbfs: DataTypes.REAL,
    tuningCents: DataTypes.REAL,
    overview: DataTypes.BLOB,
    onsetFrames: DataTypes.ARRAY(DataTypes.INTEGER),
    faintFrames: DataTypes.ARRAY(DataTypes.INTEGER),
    beatFrames: DataTypes.ARRAY(DataTypes.INTEGER),
    fitDefaults: DataTypes.JSONB,
    chroma: DataTypes.ARRAY(DataTypes.REAL),
    detail: DataTypes.JSONB,
    likeness: DataTypes.BLOB,
    fingerprint: DataTypes.BLOB,
    profile: DataTypes.BLOB,
    analyserVersion: DataTypes.INTEGER,
    heardBy: DataTypes.JSONB,
    searchText: DataTypes.TEXT,
    madeUnder: DataTypes.TEXT,
    addedBy: DataTypes.INTEGER,
    addedAt: now(),
    archivedAt: DataTypes.DATE,
  },
  { sequelize, tableName: 'loops' },
);

export class Fact extends Model<InferAttributes<Fact>, InferCreationAttributes<Fact>> {
  declare id: CreationOptional<number>;
  declare loopId: number;
  declare attribute: Attribute;
  declare value: unknown;
  declare confidence: number;
  declare source: Source;
  declare alternatives: readonly Candidate[];
  declare reason: string;
  declare analyserVersion: number;
  declare personId: number | null;
  declare createdAt: CreationOptional<Date>;
  declare supersededAt: CreationOptional<Date | null>;
  /** Of a person's word: the later one that ended it. */
  declare endedBy: CreationOptional<number | null>;
}
Fact.init(
  {
    id: { ...id(), type: DataTypes.BIGINT },
    loopId: DataTypes.INTEGER,
    attribute: DataTypes.TEXT,
    value: DataTypes.JSONB,
    confidence: DataTypes.REAL,
    source: DataTypes.TEXT,
    alternatives: DataTypes.JSONB,
    reason: DataTypes.TEXT,
    analyserVersion: DataTypes.INTEGER,
    personId: DataTypes.INTEGER,
    createdAt: now(),
    supersededAt: DataTypes.DATE,
    endedBy: DataTypes.BIGINT,
  },
  { sequelize, tableName: 'facts' },
);

export class Tag extends Model<InferAttributes<Tag>, InferCreationAttributes<Tag>> {
  declare id: CreationOptional<number>;
  declare name: string;
}
Tag.init({ id: id(), name: DataTypes.TEXT }, { sequelize, tableName: 'tags' });

export class LoopTag extends Model<InferAttributes<LoopTag>, InferCreationAttributes<LoopTag>> {
  declare loopId: number;
  declare tagId: number;
  declare personId: number;
}
LoopTag.init(
  {
    loopId: { type: DataTypes.INTEGER, primaryKey: true },
    tagId: { type: DataTypes.INTEGER, primaryKey: true },
    personId: DataTypes.INTEGER,
  },
  { sequelize, tableName: 'loop_tags' },
);

export class Favourite extends Model<InferAttributes<Favourite>, InferCreationAttributes<Favourite>> {
  declare personId: number;
  declare loopId: number;
}
Favourite.init(
  { personId: { type: DataTypes.INTEGER, primaryKey: true }, loopId: { type: DataTypes.INTEGER, primaryKey: true } },
  { sequelize, tableName: 'favourites' },
);
