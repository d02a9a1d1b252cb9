import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'

/** A step of the schema that has been taken. */
export interface MigrationRow extends Model<InferAttributes<MigrationRow>, InferCreationAttributes<MigrationRow>> {
  name: string
}

export const defineMigrations = (sequelize: Sequelize) =>
  sequelize.define<MigrationRow>('migration', { name: { type: DataTypes.STRING(100), primaryKey: true } }, { tableName: 'migrations' })
