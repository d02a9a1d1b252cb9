import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { moment } from './columns.ts'

/** Work that one server at a time may do, and until when that server has it. */
export interface LeaseRow extends Model<InferAttributes<LeaseRow>, InferCreationAttributes<LeaseRow>> {
  name: string
  holder: string
  until: Date
}

export const defineLeases = (sequelize: Sequelize) =>
  sequelize.define<LeaseRow>(
    'lease',
    {
      name: { type: DataTypes.STRING(60), primaryKey: true },
      holder: { type: DataTypes.CHAR(36), allowNull: false },
      until: { type: moment, allowNull: false, field: 'held_until' },
    },
    { tableName: 'leases' },
  )
