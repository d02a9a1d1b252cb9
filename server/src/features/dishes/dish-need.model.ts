import type { DishNeed } from '@fleam/contract/dishes'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, versionColumn } from '../../db/columns.ts'

/** A dish that needs a second product, by a day. */
export interface DishNeedRow extends Model<InferAttributes<DishNeedRow>, InferCreationAttributes<DishNeedRow>> {
  id: string
  kitchenId: string
  dish: string
  animal: DishNeed['animal']
  /** Key of the cut sheets' outputs that serve it. */
  product: string
  needTenths: number
  needEntered: string
  dueOn: string
  /** What finished runs have brought from then on counts. */
  since: Date
  closed: CreationOptional<boolean>
  version: CreationOptional<number>
}

export const defineDishNeeds = (sequelize: Sequelize) =>
  sequelize.define<DishNeedRow>(
    'dishNeed',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      dish: { type: DataTypes.STRING(80), allowNull: false },
      animal: { type: DataTypes.STRING(20), allowNull: false },
      product: { type: DataTypes.STRING(60), allowNull: false },
      needTenths: { type: DataTypes.INTEGER, allowNull: false },
      needEntered: { type: DataTypes.STRING(40), allowNull: false },
      dueOn: { type: DataTypes.DATEONLY, allowNull: false },
      since: { type: moment, allowNull: false },
      closed: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      version: versionColumn(),
    },
    { tableName: 'dish_needs', version: true },
  )
