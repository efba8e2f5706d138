'use client'

import { useCallback, useEffect, useState } from 'react'
import { said } from '@/core/formats/said'
import { alike, type LessonSettings } from '@/core/routine'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Ask } from '../../parts/confirm'
import { Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { fetchPresets, type Preset } from '../../state/api'
import { keepPreset, removePreset } from '../../state/saved'

/** Ways to teach that are kept for every routine: taken over with one choice, undone with one step. */
export function Presets({
  settings,
  onTake,
}: {
  settings: LessonSettings
  onTake: (settings: LessonSettings) => void
}) {
  const [list, setList] = useState<Preset[]>([])
  const [name, setName] = useState('')
  const [problem, setProblem] = useState('')
  const [asking, setAsking] = useState<Preset | null>(null)
  const read = useCallback(
    () =>
      fetchPresets().then(setList, (e: unknown) => {
        setProblem(said(e))
      }),
    [],
  )
  useEffect(() => {
    read()
  }, [read])
  const act = async (work: () => Promise<unknown>) => {
    try {
      await work()
      setProblem('')
      await read()
    } catch (e) {
      setProblem(said(e))
    }
  }
  const keep = () => {
    if (name.trim())
      act(async () => {
        await keepPreset(name.trim(), settings)
        setName('')
      })
  }
  const same = list.find((p) => alike(p.settings, settings))
  return (
    <Part>
      <h3>Ways to teach</h3>
      {list.length > 0 && (
        <Choice
          label="As in"
          value={same?.id ?? ''}
          options={[
            ...(same ? [] : [{ id: '', name: 'changed since, or new' }]),
            ...list.map((p) => ({ id: p.id, name: p.name })),
          ]}
          onChange={(id) => {
            const preset = list.find((p) => p.id === id)
            if (preset) onTake(preset.settings)
          }}
        />
      )}
      {same ? (
        <Tools>
          <Button small look="quiet" onPress={() => setAsking(same)}>
            Remove “{same.name}”
          </Button>
        </Tools>
      ) : (
        <>
          <Text label="Keep these settings as" value={name} onChange={setName} onEnter={keep} />
          <Tools>
            <Button small onPress={keep} isDisabled={!name.trim()}>
              Keep
            </Button>
          </Tools>
        </>
      )}
      {problem && <p role="alert">{problem}</p>}
      <Ask
        isOpen={asking !== null}
        title={`Remove “${asking?.name ?? ''}”?`}
        onClose={() => setAsking(null)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(null) },
          {
            name: 'Remove',
            look: 'danger',
            onPress: () => {
              if (asking) act(() => removePreset(asking.id))
              setAsking(null)
            },
          },
        ]}
      >
        Plans made from it stay as they are. This cannot be undone.
      </Ask>
    </Part>
  )
}
