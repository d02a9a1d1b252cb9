import Button from 'react-bootstrap/Button'
import { type Control, type FieldPath, type UseFormReturn, useFieldArray } from 'react-hook-form'
import { TextField } from '../../ui/fields.tsx'

export interface ScaleEntry {
  name: string
  host: string
  port: string
}

interface WithScales {
  settings: { scales: ScaleEntry[] }
}

/** Bench scales on this kitchen's own network, which every bench can choose from. */
export function ScaleList<Fields extends WithScales>({ form }: { form: UseFormReturn<Fields> }) {
  const { control, watch, setValue, getFieldState, formState } = form as unknown as UseFormReturn<WithScales>
  const { fields, append, remove } = useFieldArray({ control: control as Control<WithScales>, name: 'settings.scales' })
  const field = (path: FieldPath<WithScales> & `settings.scales.${number}.${keyof ScaleEntry}`) => ({
    value: watch(path),
    onChange: (value: string) => setValue(path, value, { shouldDirty: true }),
    error: getFieldState(path, formState).error?.message,
  })
  return (
    <>
      {fields.map(({ id }, at) => (
        <div className="fields" key={id}>
          <TextField label={`Scale ${at + 1}`} {...field(`settings.scales.${at}.name`)} />
          <TextField label={`Address of scale ${at + 1}`} {...field(`settings.scales.${at}.host`)} placeholder="192.168.1.20" />
          <TextField label={`Port of scale ${at + 1}`} {...field(`settings.scales.${at}.port`)} inputMode="numeric" />
          <Button variant="plain" onClick={() => remove(at)}>
            Take scale {at + 1} off
          </Button>
        </div>
      ))}
      <Button variant="plain" onClick={() => append({ name: '', host: '', port: '' })}>
        Add a scale
      </Button>
    </>
  )
}
