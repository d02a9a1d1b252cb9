import type { LabelSize } from '@fleam/contract/labels'
import Button from 'react-bootstrap/Button'
import { type Control, type FieldPath, type UseFormReturn, useFieldArray } from 'react-hook-form'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { labelSizes } from '../walk-in/label-sizes.ts'

interface AddressEntry {
  name: string
  host: string
  port: string
}
export type ScaleEntry = AddressEntry
export type PrinterEntry = AddressEntry & { path: string; size: LabelSize }

interface WithAddresses {
  settings: { scales: ScaleEntry[]; printers: PrinterEntry[] }
}

const kinds = {
  scales: { one: 'scale', blank: { name: '', host: '', port: '' }, host: '192.168.1.20' },
  printers: { one: 'printer', blank: { name: '', host: '', port: '631', path: 'ipp/print', size: '62x29' }, host: '192.168.1.30' },
} as const

/** Bench scales or label printers on this kitchen's own network, which every bench can choose from. */
export function AddressList<Fields extends WithAddresses>({ form, kind }: { form: UseFormReturn<Fields>; kind: keyof typeof kinds }) {
  const { control, watch, setValue, getFieldState, formState } = form as unknown as UseFormReturn<WithAddresses>
  const { fields, append, remove } = useFieldArray({ control: control as Control<WithAddresses>, name: `settings.${kind}` })
  const { one, blank, host } = kinds[kind]
  const field = (at: number, name: keyof PrinterEntry) => {
    const path = `settings.${kind}.${at}.${name}` as FieldPath<WithAddresses> & `settings.printers.${number}.name`
    return {
      value: watch(path),
      onChange: (value: string) => setValue(path, value, { shouldDirty: true }),
      error: getFieldState(path, formState).error?.message,
    }
  }
  return (
    <>
      {fields.map(({ id }, at) => (
        <div className="fields" key={id}>
          <TextField label={`${one === 'scale' ? 'Scale' : 'Printer'} ${at + 1}`} {...field(at, 'name')} />
          <TextField label={`Address of ${one} ${at + 1}`} {...field(at, 'host')} placeholder={host} />
          <TextField label={`Port of ${one} ${at + 1}`} {...field(at, 'port')} inputMode="numeric" />
          {kind === 'printers' && (
            <>
              <TextField label={`Queue of printer ${at + 1}`} {...field(at, 'path')} />
              <SelectField label={`Labels in printer ${at + 1}`} {...field(at, 'size')} options={labelSizes} />
            </>
          )}
          <Button variant="plain" onClick={() => remove(at)}>
            Take {one} {at + 1} off
          </Button>
        </div>
      ))}
      <Button variant="plain" onClick={() => append(blank)}>
        Add a {one}
      </Button>
    </>
  )
}
