import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { moment } from '../../db/columns.ts'

/** A failed attempt to sign in, by name and by address; of no kitchen, since nobody has come in yet. */
export interface SignInFailureRow extends Model<InferAttributes<SignInFailureRow>, InferCreationAttributes<SignInFailureRow>> {
  id: CreationOptional<number>
  subject: string
  at: Date
}

export const defineSignInFailures = (sequelize: Sequelize) =>
  sequelize.define<SignInFailureRow>(
    'signInFailure',
    {
      id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
      subject: { type: DataTypes.STRING(120), allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'sign_in_failures' },
  )
