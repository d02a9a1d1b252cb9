import type { MeasuredProfile } from '@fleam/contract/plan'
import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A piece that was measured along its length, to be used again. */
export interface MeasuredProfileRow extends Model<InferAttributes<MeasuredProfileRow>, InferCreationAttributes<MeasuredProfileRow>> {
  id: string
  kitchenId: string
  name: string
  kind: MeasuredProfile['kind']
  stations: MeasuredProfile['stations']
  grams: number
  personId: string
  at: Date
  person?: NonAttribute<PersonRow>
}

export const defineMeasuredProfiles = (sequelize: Sequelize) =>
  sequelize.define<MeasuredProfileRow>(
    'measuredProfile',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      kind: { type: DataTypes.ENUM('muscle', 'fillet', 'rack'), allowNull: false },
      stations: { type: DataTypes.JSON, allowNull: false },
      grams: { type: DataTypes.DOUBLE, allowNull: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'measured_profiles' },
  )
