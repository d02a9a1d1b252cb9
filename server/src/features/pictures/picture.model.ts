import type { PictureSubject } from '@fleam/contract/pictures'
import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A picture of a run, as JPEG, and the small one that lists show. */
export interface PictureRow extends Model<InferAttributes<PictureRow>, InferCreationAttributes<PictureRow>> {
  id: string
  kitchenId: string
  runId: string
  about: PictureSubject
  defectId: string | null
  width: number
  height: number
  jpeg: Buffer
  thumbnail: Buffer
  personId: string
  at: Date
  person?: NonAttribute<PersonRow>
}

export const definePictures = (sequelize: Sequelize) =>
  sequelize.define<PictureRow>(
    'picture',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      runId: { type: uuid, allowNull: false },
      about: { type: DataTypes.STRING(20), allowNull: false },
      defectId: uuid,
      width: { type: DataTypes.INTEGER, allowNull: false },
      height: { type: DataTypes.INTEGER, allowNull: false },
      jpeg: { type: DataTypes.BLOB('medium'), allowNull: false },
      thumbnail: { type: DataTypes.BLOB, allowNull: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'pictures' },
  )
