import type { KitchenDay } from '@fleam/contract/day'
import type { DayJobEntry, DaySchedule, JobState } from '@fleam/contract/day-schedule'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { get, messageOf, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { dayQuery, daysQuery, scheduleQuery, schedulesQuery } from '../../api/queries.ts'
import { say } from '../../ui/toasts.ts'
import { useChange } from '../../ui/use-change.ts'

const planMs = 60_000

/** Where a job is held: its minute of the schedule, and who does it. */
export interface Hold {
  at?: number
  who?: string
}

/** Plans a day's schedule, holds jobs of it and lets them go. */
export function useScheduling(dayId: string) {
  const queryClient = useQueryClient()
  const known = (schedule: DaySchedule) => {
    queryClient.setQueryData(scheduleQuery(dayId).queryKey, schedule)
    void queryClient.invalidateQueries({ queryKey: schedulesQuery.queryKey })
  }
  const planning = useMutation({
    mutationFn: (from: 'plan' | 'kept' | 'now') => send<DaySchedule>('POST', `/days/${dayId}/schedule`, { from }, planMs),
    onSuccess: known,
  })
  const holding = useMutation({
    mutationFn: async ({ job, hold, from }: { job: string; hold: Hold | null; from: 'kept' | 'now' }) => {
      const day = await get<KitchenDay>(`/days/${dayId}`)
      const { [job]: before, ...others } = day.body.heldJobs
      const heldJobs = hold === null ? others : { ...others, [job]: hold }
      const { version, name, date, body } = day
      const changed = await send<KitchenDay>('PUT', `/days/${dayId}`, { version, name, date, body: { ...body, heldJobs } })
      queryClient.setQueryData(dayQuery(dayId).queryKey, changed)
      void queryClient.invalidateQueries({ queryKey: daysQuery.queryKey })
      return { schedule: await send<DaySchedule>('POST', `/days/${dayId}/schedule`, { from }, planMs), before: before ?? null }
    },
    onSuccess: ({ schedule, before }, { job, hold, from }) => {
      known(schedule)
      const name = schedule.jobs.find(({ id }) => id === job)?.name ?? 'The job'
      const words = hold === null ? `${name} is let go; the rest is planned with it.` : `${name} is held; the rest is planned around it.`
      say(words, async () => {
        await holding.mutateAsync({ job, hold: before as Hold | null, from }).catch(() => undefined)
      })
    },
  })
  const failed = planning.error ?? holding.error
  return {
    plan: (from: 'plan' | 'kept' | 'now') => {
      if (!planning.isPending) planning.mutate(from)
    },
    hold: (schedule: DaySchedule, job: string, hold: Hold | null) => {
      if (!holding.isPending) holding.mutate({ job, hold, from: schedule.fromMinute === null ? 'kept' : 'now' })
    },
    busy: planning.isPending || holding.isPending,
    trouble: failed ? messageOf(failed) : undefined,
  }
}

/** Ticks jobs of a schedule: begun, done, or neither. Shown at once. */
export function useTicks(dayId: string) {
  type Tick = { job: DayJobEntry; state: JobState }
  const tick = ({ job, state }: Tick) =>
    send<DaySchedule>('POST', `/days/${dayId}/ticks`, { id: newId(), job: job.id, state, at: new Date().toISOString() })
  return useChange<Tick, DaySchedule>({
    send: tick,
    refresh: [scheduleQuery(dayId).queryKey, schedulesQuery.queryKey],
    shown: {
      queryKey: schedulesQuery.queryKey,
      as: (known: DaySchedule[], { job, state }) =>
        known.map((schedule) => (schedule.dayId === dayId ? withTick(schedule, job, state) : schedule)),
    },
    said: ({ job, state }) => `${job.name}: ${state === 'done' ? 'done' : state === 'started' ? 'begun' : 'not begun'}.`,
    undo: (_answer, { job }) => tick({ job, state: job.state }),
  })
}

const withTick = (schedule: DaySchedule, { id }: DayJobEntry, state: JobState): DaySchedule => ({
  ...schedule,
  jobs: schedule.jobs.map((job) => (job.id === id ? { ...job, state } : job)),
})
