import { type PersonRole, roles } from '@fleam/contract/roles'
import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** Somebody of another kitchen is asked in; the code itself is known to whoever was told it alone. */
export interface InvitationRow extends Model<InferAttributes<InvitationRow>, InferCreationAttributes<InvitationRow>> {
  id: string
  kitchenId: string
  codeHash: string
  role: PersonRole
  /** Who asks. */
  personId: string
  expiresAt: Date
  person?: NonAttribute<PersonRow>
}

export const defineInvitations = (sequelize: Sequelize) =>
  sequelize.define<InvitationRow>(
    'invitation',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      codeHash: { type: DataTypes.CHAR(64), allowNull: false },
      role: { type: DataTypes.ENUM(...roles), allowNull: false },
      personId: { type: uuid, allowNull: false },
      expiresAt: { type: moment, allowNull: false },
    },
    { tableName: 'invitations' },
  )
