import { column, type Column } from '../files/columns'

export const noteColumns: readonly Column[] = [
  column('note', 'Note number', false, 'the same in every row', 'delivery note', 'note no'),
  column('item', 'Item', true, 'as in the catalogue', 'item code', 'article'),
  column('class', 'Class', true, 'pressure or strength class', 'pressure class', 'sdr'),
  column('lot', 'Lot', true, 'as printed', 'batch'),
  column('serial', 'Serial', false, 'single pieces only', 'serial number'),
  column('quantity', 'Quantity', true, 'a whole number', 'qty', 'count'),
  column('length', 'Length', false, 'with a unit, or in metres', 'length m'),
  column('made', 'Production date', false, 'such as 2026-03-09', 'made', 'produced'),
  column('expires', 'Expiry date', false, 'such as 2026-03-09', 'expiry', 'use by'),
]

export const orderColumns: readonly Column[] = [
  column('order', 'Order number', true, 'the same in every row of an order', 'po', 'order no'),
  column('supplier', 'Supplier', true, 'the same in every row of an order', 'vendor'),
  column('item', 'Item', true, 'as in the catalogue', 'item code', 'article'),
  column('class', 'Class', true, 'pressure or strength class', 'pressure class', 'sdr'),
  column('quantity', 'Quantity', true, 'a whole number', 'qty', 'count'),
  column('lots', 'Lots', false, 'those allowed, with a space between; empty for any', 'lot', 'batch'),
]
