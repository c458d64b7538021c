import { DataTypes } from 'sequelize';
import type { SettledValues } from '~core/analysis/attributes/attribute';
import { attributeRow, attributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import type { Key } from '~core/theory/key';

/** Columns of a loop that services read by name; the registry may add others, which only search reads. */
export interface FactColumns extends Omit<SettledValues, 'key'>, Readonly<Record<`${DoubtAttribute}Confidence`, number | null>> {
  readonly landingSeconds: number | null;
  readonly keyTonic: Key['tonic'] | null;
  readonly keyMode: Key['mode'] | null;
}

const types = {
  text: DataTypes.TEXT,
  texts: DataTypes.ARRAY(DataTypes.TEXT),
  real: DataTypes.REAL,
  double: DataTypes.DOUBLE,
  smallint: DataTypes.SMALLINT,
  boolean: DataTypes.BOOLEAN,
} as const;

/** What the model of loops has to be told of the columns that follow from attributes. */
export const factColumnTypes = (): Record<string, (typeof types)[keyof typeof types]> =>
  Object.fromEntries(
    attributes.flatMap((name) => {
      const { columns, isDoubted } = attributeRow(name);
      return [
        ...columns.map((column) => [column.name, types[column.type]] as const),
        ...(isDoubted ? [[`${name}Confidence`, DataTypes.REAL] as const] : []),
      ];
    }),
  );
