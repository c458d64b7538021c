import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import { sequelize } from '../connection';

/** A loop outside of which something is known here: it was heard, or taken. */
export class OutsideLoopRow extends Model<InferAttributes<OutsideLoopRow>, InferCreationAttributes<OutsideLoopRow>> {
  declare id: CreationOptional<number>;
  declare source: string;
  declare outsideId: string;
  /** What is told of it there. */
  declare told: object;
  /** Its preview, while that is being heard. */
  declare fileSha256: CreationOptional<string | null>;
  declare soundSha256: CreationOptional<string | null>;
  /** What the ear found, as a loop that can be heard. */
  declare heard: CreationOptional<object | null>;
  declare heardAt: CreationOptional<Date | null>;
}
OutsideLoopRow.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    source: DataTypes.TEXT,
    outsideId: DataTypes.TEXT,
    told: DataTypes.JSONB,
    fileSha256: { type: DataTypes.CHAR(64), field: 'file_sha256' },
    soundSha256: { type: DataTypes.CHAR(64), field: 'sound_sha256' },
    heard: DataTypes.JSONB,
    heardAt: DataTypes.DATE,
  },
  { sequelize, tableName: 'outside_loops' },
);
