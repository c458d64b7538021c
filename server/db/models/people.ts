import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize';
import { sequelize } from '../connection';

export class Person extends Model<InferAttributes<Person>, InferCreationAttributes<Person>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare passwordHash: string;
  declare role: CreationOptional<'member' | 'keeper'>;
  declare createdAt: CreationOptional<Date>;
  declare archivedAt: CreationOptional<Date | null>;
}
Person.init(
  {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    name: DataTypes.TEXT,
    passwordHash: DataTypes.TEXT,
    role: { type: DataTypes.TEXT, defaultValue: 'member' },
    createdAt: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
    archivedAt: DataTypes.DATE,
  },
  { sequelize, tableName: 'people' },
);

export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  declare tokenHash: Buffer;
  declare personId: number;
  declare projectId: CreationOptional<number | null>;
  declare expiresAt: Date;
}
Session.init(
  {
    tokenHash: { type: DataTypes.BLOB, primaryKey: true },
    personId: DataTypes.INTEGER,
    projectId: DataTypes.INTEGER,
    expiresAt: DataTypes.DATE,
  },
  { sequelize, tableName: 'sessions' },
);

export class Activity extends Model<InferAttributes<Activity>, InferCreationAttributes<Activity>> {
  declare id: CreationOptional<number>;
  declare personId: number;
  declare verb: string;
  declare subject: string;
  declare subjectId: CreationOptional<number | null>;
  declare detail: CreationOptional<object>;
  declare at: CreationOptional<Date>;
}
Activity.init(
  {
    id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
    personId: DataTypes.INTEGER,
    verb: DataTypes.TEXT,
    subject: DataTypes.TEXT,
    subjectId: DataTypes.INTEGER,
    detail: { type: DataTypes.JSONB, defaultValue: {} },
    at: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },
  },
  { sequelize, tableName: 'activity' },
);
