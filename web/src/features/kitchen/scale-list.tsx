import Button from 'react-bootstrap/Button'
import { TextField } from '../../ui/fields.tsx'

export interface ScaleEntry {
  name: string
  host: string
  port: string
}

interface ScaleListProps {
  scales: readonly ScaleEntry[]
  errors: Readonly<Record<string, string>>
  onChange: (scales: ScaleEntry[]) => void
}

/** Bench scales on this kitchen's own network, which every bench can choose from. */
export function ScaleList({ scales, errors, onChange }: ScaleListProps) {
  const change = (at: number, part: Partial<ScaleEntry>) => onChange(scales.map((one, index) => (index === at ? { ...one, ...part } : one)))
  return (
    <>
      {scales.map((one, at) => (
        <div className="fields" key={at}>
          <TextField
            label={`Scale ${at + 1}`}
            value={one.name}
            onChange={(name) => change(at, { name })}
            error={errors[`settings.scales.${at}.name`]}
          />
          <TextField
            label={`Address of scale ${at + 1}`}
            value={one.host}
            onChange={(host) => change(at, { host })}
            error={errors[`settings.scales.${at}.host`]}
            placeholder="192.168.1.20"
          />
          <TextField
            label={`Port of scale ${at + 1}`}
            value={one.port}
            onChange={(port) => change(at, { port })}
            error={errors[`settings.scales.${at}.port`]}
            inputMode="numeric"
          />
          <Button variant="plain" onClick={() => onChange(scales.filter((_, index) => index !== at))}>
            Take scale {at + 1} off
          </Button>
        </div>
      ))}
      <Button variant="plain" onClick={() => onChange([...scales, { name: '', host: '', port: '' }])}>
        Add a scale
      </Button>
    </>
  )
}
