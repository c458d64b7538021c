import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { DemoMix } from '~core/arrangement/demo-mix';
import { sequelize } from '../connection';

/** Sixteen bars that a pack is judged by. */
export class PackDemo extends Model<InferAttributes<PackDemo>, InferCreationAttributes<PackDemo>> {
  declare packId: number;
  declare state: 'queued' | 'done' | 'failed';
  /** What it was made of: made anew when that is something else. */
  declare planHash: CreationOptional<string | null>;
  declare layers: CreationOptional<DemoMix['layers']>;
  declare tempoBpm: CreationOptional<number | null>;
  declare bars: CreationOptional<number | null>;
  /** 240 bytes. */
  declare overview: CreationOptional<Buffer | null>;
  declare lengthSeconds: CreationOptional<number | null>;
  declare fileSha256: CreationOptional<string | null>;
  declare message: CreationOptional<string | null>;
  declare madeAt: CreationOptional<Date>;
}
PackDemo.init(
  {
    packId: { type: DataTypes.INTEGER, primaryKey: true },
    state: DataTypes.TEXT,
    planHash: DataTypes.CHAR(64),
    layers: DataTypes.JSONB,
    tempoBpm: DataTypes.DOUBLE,
    bars: DataTypes.INTEGER,
    overview: DataTypes.BLOB,
    lengthSeconds: DataTypes.DOUBLE,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    message: DataTypes.TEXT,
    madeAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
  },
  { sequelize, tableName: 'pack_demos' },
);
