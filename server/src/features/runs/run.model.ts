import type { FishCheck } from '@fleam/contract/bench'
import type { Item } from '@fleam/contract/prices'
import type { Run } from '@fleam/contract/runs'
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
import type { CutSheetVersionRow } from '../cut-sheets/cut-sheet-version.model.ts'
import type { PersonRow } from '../people/person.model.ts'
import type { ItemRow } from '../prices/item.model.ts'
import type { QuoteRow } from '../prices/quote.model.ts'
import type { SupplierRow } from '../prices/supplier.model.ts'

/** Something bought that is fabricated into weighed outputs, with the prices, rates and limits that were in force. */
export interface RunRow extends Model<InferAttributes<RunRow>, InferCreationAttributes<RunRow>> {
  id: string
  kitchenId: string
  number: number
  version: CreationOptional<number>
  status: Run['status']
  itemId: string
  cutSheetVersionId: string
  supplierId: string | null
  cookId: string
  lot: string
  /** Weights in tenths of a gram, beside what was entered. */
  billedTenths: number
  billedEntered: string
  receivedTenths: number
  receivedEntered: string
  pieces: number
  coreTempC: number | null
  temperature: Run['temperature']
  quoteId: string
  readyCutItemId: string | null
  readyCutTerms: Item['readyCut']
  readyCutQuoteId: string | null
  rates: Run['rates']
  method: Run['method']
  minutes: number | null
  consumables: CreationOptional<number>
  unaccountedReason: string | null
  claimCredit: CreationOptional<number>
  byPiece: CreationOptional<boolean>
  fish: FishCheck | null
  deliveryCheck: CreationOptional<Run['deliveryCheck']>
  startedAt: Date
  finishedAt: Date | null
  finishedById: string | null
  discarded: CreationOptional<Run['discarded']>
  reopened: CreationOptional<Run['reopened']>
  leftOut: CreationOptional<Run['leftOut']>
  /** Figures of a finished run: they follow from the ledger and are here to sort and page by. */
  mainPct: number | null
  usablePct: number | null
  unaccountedPct: number | null
  netCost: number | null
  costPerKg: number | null
  costPerPortion: number | null
  portions: number | null
  item?: NonAttribute<ItemRow>
  cutSheetVersion?: NonAttribute<CutSheetVersionRow>
  supplier?: NonAttribute<SupplierRow | null>
  cook?: NonAttribute<PersonRow>
  finishedBy?: NonAttribute<PersonRow | null>
  quote?: NonAttribute<QuoteRow>
  readyCutItem?: NonAttribute<ItemRow | null>
  readyCutQuote?: NonAttribute<QuoteRow | null>
}

export const defineRuns = (sequelize: Sequelize) =>
  sequelize.define<RunRow>(
    'run',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      number: { type: DataTypes.INTEGER, allowNull: false },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      status: { type: DataTypes.ENUM('open', 'finished', 'turned-away', 'discarded'), allowNull: false },
      itemId: { type: uuid, allowNull: false },
      cutSheetVersionId: { type: uuid, allowNull: false },
      supplierId: uuid,
      cookId: { type: uuid, allowNull: false },
      lot: { type: DataTypes.STRING(40), allowNull: false },
      billedTenths: { type: DataTypes.INTEGER, allowNull: false },
      billedEntered: { type: DataTypes.STRING(40), allowNull: false },
      receivedTenths: { type: DataTypes.INTEGER, allowNull: false },
      receivedEntered: { type: DataTypes.STRING(40), allowNull: false },
      pieces: { type: DataTypes.INTEGER, allowNull: false },
      coreTempC: DataTypes.DOUBLE,
      temperature: DataTypes.JSON,
      quoteId: { type: uuid, allowNull: false },
      readyCutItemId: uuid,
      readyCutTerms: DataTypes.JSON,
      readyCutQuoteId: uuid,
      rates: { type: DataTypes.JSON, allowNull: false },
      method: { type: DataTypes.STRING(20), allowNull: false },
      minutes: DataTypes.DOUBLE,
      consumables: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      unaccountedReason: DataTypes.STRING(400),
      claimCredit: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      byPiece: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      fish: DataTypes.JSON,
      deliveryCheck: DataTypes.JSON,
      startedAt: { type: moment, allowNull: false },
      finishedAt: moment,
      finishedById: { type: uuid, field: 'finished_by' },
      discarded: DataTypes.JSON,
      reopened: DataTypes.JSON,
      leftOut: DataTypes.JSON,
      mainPct: DataTypes.DOUBLE,
      usablePct: DataTypes.DOUBLE,
      unaccountedPct: DataTypes.DOUBLE,
      netCost: DataTypes.DOUBLE,
      costPerKg: DataTypes.DOUBLE,
      costPerPortion: DataTypes.DOUBLE,
      portions: DataTypes.INTEGER,
    },
    { tableName: 'runs', version: true },
  )
