import type { KitchenOrder } from '@fleam/contract/ordering'
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'
import type { SupplierRow } from '../prices/supplier.model.ts'

/** What a kitchen asked a supplier for, and what the supplier says it sends. */
export interface OrderRow extends Model<InferAttributes<OrderRow>, InferCreationAttributes<OrderRow>> {
  id: string
  kitchenId: string
  number: number
  supplierId: string
  dayId: string | null
  wantedOn: string
  lines: KitchenOrder['lines']
  personId: string
  at: Date
  sentAt: CreationOptional<Date | null>
  note: CreationOptional<KitchenOrder['note']>
  person?: NonAttribute<PersonRow>
  supplier?: NonAttribute<SupplierRow>
}

export const defineOrders = (sequelize: Sequelize) =>
  sequelize.define<OrderRow>(
    'order',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      number: { type: DataTypes.INTEGER, allowNull: false },
      supplierId: { type: uuid, allowNull: false },
      dayId: uuid,
      wantedOn: { type: DataTypes.DATEONLY, allowNull: false },
      lines: { type: DataTypes.JSON, allowNull: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
      sentAt: moment,
      note: DataTypes.JSON,
    },
    { tableName: 'orders' },
  )
