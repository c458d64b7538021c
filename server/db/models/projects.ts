import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { PatternNote } from '~core/arrangement/pattern/pattern';
import type { ChordMark, ChordWay, Project, ShiftMark } from '~core/arrangement/tree';
import type { Overs } from '~core/mix/overs';
import type { KeptOverrides } from '~core/arrangement/fit-settings';
import type { ChurchMode, Key, Mode } from '~core/theory/key';
import { sequelize } from '../connection';

export class ProjectRow extends Model<InferAttributes<ProjectRow>, InferCreationAttributes<ProjectRow>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare tempoBpm: number;
  declare keyTonic: number | null;
  declare keyMode: Mode | null;
  declare keyChurch: CreationOptional<ChurchMode | null>;
  declare meter: string;
  declare masterGainDb: number;
  declare revision: CreationOptional<number>;
  declare createdBy: number;
  declare createdAt: CreationOptional<Date>;
  declare changedAt: CreationOptional<Date>;
  declare archivedAt: CreationOptional<Date | null>;
}
ProjectRow.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    name: DataTypes.TEXT,
    tempoBpm: DataTypes.DOUBLE,
    keyTonic: DataTypes.SMALLINT,
    keyMode: DataTypes.TEXT,
    keyChurch: DataTypes.TEXT,
    meter: DataTypes.TEXT,
    masterGainDb: DataTypes.REAL,
    revision: { type: DataTypes.INTEGER, defaultValue: 0 },
    createdBy: DataTypes.INTEGER,
    createdAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
    changedAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
    archivedAt: DataTypes.DATE,
  },
  { sequelize, tableName: 'projects' },
);

// Sequelize writes into the objects it is given, so each column gets its own.
const projectId = () => ({ type: DataTypes.INTEGER, primaryKey: true });
const textId = () => ({ type: DataTypes.TEXT, primaryKey: true });

export class SectionRow extends Model<InferAttributes<SectionRow>, InferCreationAttributes<SectionRow>> {
  declare projectId: number;
  declare id: string;
  declare name: string;
  declare startBeat: number;
  declare lengthBeats: number;
  declare key: CreationOptional<Key | null>;
}
SectionRow.init(
  {
    projectId: projectId(),
    id: textId(),
    name: DataTypes.TEXT,
    startBeat: DataTypes.DOUBLE,
    lengthBeats: DataTypes.DOUBLE,
    key: DataTypes.JSONB,
  },
  { sequelize, tableName: 'sections' },
);

export class ChordRow extends Model<InferAttributes<ChordRow>, InferCreationAttributes<ChordRow>> {
  declare projectId: number;
  declare startBeat: number;
  declare symbol: string;
}
ChordRow.init(
  { projectId: projectId(), startBeat: { type: DataTypes.DOUBLE, primaryKey: true }, symbol: DataTypes.TEXT },
  { sequelize, tableName: 'chords' },
);

export class TrackRow extends Model<InferAttributes<TrackRow>, InferCreationAttributes<TrackRow>> {
  declare projectId: number;
  declare id: string;
  declare position: number;
  declare name: string;
  declare colour: number;
  declare gainDb: number;
  declare pan: number;
  declare muted: boolean;
  declare soloed: boolean;
  declare setAside: boolean;
}
TrackRow.init(
  {
    projectId: projectId(),
    id: textId(),
    position: DataTypes.INTEGER,
    name: DataTypes.TEXT,
    colour: DataTypes.SMALLINT,
    gainDb: DataTypes.REAL,
    pan: DataTypes.REAL,
    muted: DataTypes.BOOLEAN,
    soloed: DataTypes.BOOLEAN,
    setAside: DataTypes.BOOLEAN,
  },
  { sequelize, tableName: 'tracks' },
);

export class ClipRow extends Model<InferAttributes<ClipRow>, InferCreationAttributes<ClipRow>> {
  declare projectId: number;
  declare id: string;
  declare trackId: string;
  declare loopId: number | null;
  declare patternId: string | null;
  declare startBeat: number;
  declare lengthBeats: number;
  declare offsetBeats: number;
  declare gainDb: number;
  declare shiftSemitones: number;
  declare followTempo: boolean;
  declare followKey: boolean;
  declare overrides: KeptOverrides;
  declare fadeInBeats: number;
  declare fadeOutBeats: number;
  declare muted: boolean;
  declare landsAfterBeats: number | null;
  declare chordWay: ChordWay | null;
  declare shiftMarks: readonly ShiftMark[] | null;
}
ClipRow.init(
  {
    projectId: projectId(),
    id: textId(),
    trackId: DataTypes.TEXT,
    loopId: DataTypes.INTEGER,
    patternId: DataTypes.TEXT,
    startBeat: DataTypes.DOUBLE,
    lengthBeats: DataTypes.DOUBLE,
    offsetBeats: DataTypes.DOUBLE,
    gainDb: DataTypes.REAL,
    shiftSemitones: DataTypes.REAL,
    followTempo: DataTypes.BOOLEAN,
    followKey: DataTypes.BOOLEAN,
    overrides: DataTypes.JSONB,
    fadeInBeats: DataTypes.DOUBLE,
    fadeOutBeats: DataTypes.DOUBLE,
    muted: DataTypes.BOOLEAN,
    landsAfterBeats: DataTypes.DOUBLE,
    chordWay: DataTypes.TEXT,
    shiftMarks: DataTypes.JSONB,
  },
  { sequelize, tableName: 'clips' },
);

export class PatternRow extends Model<InferAttributes<PatternRow>, InferCreationAttributes<PatternRow>> {
  declare projectId: number;
  declare id: string;
  declare position: number;
  declare name: string;
  declare lengthBeats: number;
  declare notes: readonly PatternNote[];
  declare isDrums: boolean;
  declare instrument: string | null;
  declare key: Key | null;
  declare chords: readonly ChordMark[];
  declare fromLoopId: number | null;
}
PatternRow.init(
  {
    projectId: projectId(),
    id: textId(),
    position: DataTypes.INTEGER,
    name: DataTypes.TEXT,
    lengthBeats: DataTypes.DOUBLE,
    notes: DataTypes.JSONB,
    isDrums: DataTypes.BOOLEAN,
    instrument: DataTypes.TEXT,
    key: DataTypes.JSONB,
    chords: DataTypes.JSONB,
    fromLoopId: DataTypes.INTEGER,
  },
  { sequelize, tableName: 'patterns' },
);

export class ExportRow extends Model<InferAttributes<ExportRow>, InferCreationAttributes<ExportRow>> {
  declare id: CreationOptional<number>;
  declare projectId: number;
  declare personId: number;
  declare revision: number;
  declare what: CreationOptional<'mixdown' | 'stems'>;
  declare bits: 16 | 24 | 32;
  declare rateHz: 44100 | 48000;
  declare overs: CreationOptional<Overs>;
  /** As it was when it was asked for; null for those of before. */
  declare project: CreationOptional<Project | null>;
  declare state: CreationOptional<'queued' | 'working' | 'done' | 'failed' | 'stopped'>;
  declare message: CreationOptional<string | null>;
  declare fileSha256: CreationOptional<string | null>;
  declare credits: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
}
ExportRow.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    projectId: DataTypes.INTEGER,
    personId: DataTypes.INTEGER,
    revision: DataTypes.INTEGER,
    what: { type: DataTypes.TEXT, defaultValue: 'mixdown' },
    bits: DataTypes.SMALLINT,
    rateHz: DataTypes.INTEGER,
    overs: { type: DataTypes.TEXT, defaultValue: 'lower' },
    project: DataTypes.JSONB,
    state: { type: DataTypes.TEXT, defaultValue: 'queued' },
    message: DataTypes.TEXT,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    credits: DataTypes.TEXT,
    createdAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
  },
  { sequelize, tableName: 'exports' },
);
