import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import type { MadeHow, MakingLine, Sheet } from '~contracts/making';
import { sequelize } from '../connection';

export class MakingRow extends Model<InferAttributes<MakingRow>, InferCreationAttributes<MakingRow>> {
  declare id: CreationOptional<number>;
  declare personId: number;
  declare packId: number;
  declare state: CreationOptional<MakingLine['state']>;
  declare message: CreationOptional<string | null>;
  declare sheet: Sheet;
  declare how: MadeHow;
  /** What was made, until its loop is there. */
  declare fileSha256: CreationOptional<string | null>;
  declare loopId: CreationOptional<number | null>;
  declare madeAt: CreationOptional<Date>;
}
MakingRow.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    personId: DataTypes.INTEGER,
    packId: DataTypes.INTEGER,
    state: { type: DataTypes.TEXT, defaultValue: 'queued' },
    message: DataTypes.TEXT,
    sheet: DataTypes.JSONB,
    how: DataTypes.JSONB,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    loopId: DataTypes.INTEGER,
    madeAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
  },
  { sequelize, tableName: 'makings' },
);
