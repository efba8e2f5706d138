import { ToggleButton } from 'react-aria-components'
import { Toggles } from './dark'

/** One choice among a few. */
interface Option<K extends string> {
  key: K
  name: string
}

/** A choice of one among a few, under its name. @param name for ears too, where the label says more or other than this */
export function OneOf<K extends string>({
  label,
  name = label,
  options,
  chosen,
  onChoose,
}: {
  label: string
  name?: string
  options: readonly Option<K>[]
  chosen: K
  onChoose: (key: K) => void
}) {
  return (
    <div>
      <div className="label">{label}</div>
      <Toggles
        aria-label={name}
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[chosen]}
        onSelectionChange={(keys) => onChoose([...keys][0] as K)}
      >
        {options.map((o) => (
          <ToggleButton key={o.key} id={o.key}>
            {o.name}
          </ToggleButton>
        ))}
      </Toggles>
    </div>
  )
}
