import { zodResolver } from '@hookform/resolvers/zod'
import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { type DefaultValues, type FieldPath, type FieldValues, type PathValue, type Resolver, useForm } from 'react-hook-form'
import type * as z from 'zod'
import { messageOf, ProblemFailure } from '../api/http.ts'
import { markKept, markUnsaved, type Unsaved } from './unsaved.ts'

interface RequestFormOptions<Fields extends FieldValues, Answer> {
  /** What the fields hold at first. A field is named as its value is in the request, so that refusals find it. */
  start: Fields
  /** The contract of the request. */
  schema: z.ZodType
  /** The request that the fields make: numbers read, empty ones left out. */
  toRequest: (fields: Fields) => object
  send: (request: object) => Promise<Answer>
  /** What the fields of a form that stays open hold after it was sent; as they were sent unless given. */
  next?: (sent: Fields) => Fields
  /** What is typed is kept on this tablet under this name until it is sent, through a reload. */
  keepAs?: string
}

/**
 * A form that makes one request: checked against its contract before it goes, each refusal beside its field, the server's as
 * well; a second press while the first is under way is the same press. Leaving with something typed is asked about.
 */
export function useRequestForm<Fields extends FieldValues, Answer>(options: RequestFormOptions<Fields, Answer>) {
  const { start, schema, toRequest, send, next = (sent) => sent, keepAs } = options
  const key = keepAs === undefined ? undefined : `fleam.typed.${keepAs}`
  const resolver: Resolver<Fields> = async (fields, context, settings) => {
    const checked = await zodResolver(schema as never, undefined, { raw: true })(toRequest(fields) as never, context, settings as never)
    return (Object.keys(checked.errors).length > 0 ? { values: {}, errors: checked.errors } : { values: fields, errors: {} }) as never
  }
  const form = useForm<Fields>({ resolver, defaultValues: start as DefaultValues<Fields>, reValidateMode: 'onSubmit' })
  const { watch, reset, getFieldState, formState } = form
  const { errors } = formState
  const mutation = useMutation({ mutationFn: send })
  const unsaved = useRef<Unsaved>(undefined)
  unsaved.current ??= {
    isDraftKept: key !== undefined,
    discard: () => key !== undefined && sessionStorage.removeItem(key),
  }

  useEffect(() => {
    const draft = key === undefined ? undefined : sessionStorage.getItem(key)
    if (draft) reset((fields) => ({ ...fields, ...typedBefore(draft) }), { keepDefaultValues: true })
  }, [reset, key])
  useEffect(() => {
    if (key === undefined) return
    const watching = watch((fields) => sessionStorage.setItem(key, JSON.stringify(fields)))
    return () => watching.unsubscribe()
  }, [watch, key])
  const { isDirty } = formState
  useEffect(() => {
    const here = unsaved.current as Unsaved
    if (isDirty) markUnsaved(here)
    return () => markKept(here)
  }, [isDirty])

  return {
    form,
    /** What a field needs: its value, how to change it, what was refused of it. */
    field<Path extends FieldPath<Fields>>(path: Path) {
      return {
        value: form.watch(path),
        onChange: (value: PathValue<Fields, Path>) => {
          form.setValue(path, value, { shouldDirty: true })
          form.clearErrors(path)
        },
        error: getFieldState(path, formState).error?.message,
      }
    },
    /** What was refused of a place in the request that no field shows. */
    refusalOf: (path: string) => getFieldState(path as FieldPath<Fields>, formState).error?.message,
    /** Sends the form; `undefined` where it was refused, and why stands beside the fields. */
    submit: async (): Promise<Answer | undefined> => {
      if (mutation.isPending) return undefined
      let answer: Answer | undefined
      await form.handleSubmit(async (fields) => {
        try {
          answer = await mutation.mutateAsync(toRequest(fields))
          form.reset(next(fields))
          if (key !== undefined) sessionStorage.removeItem(key)
          markKept(unsaved.current as Unsaved)
        } catch (error) {
          const refused = error instanceof ProblemFailure ? (error.problem.errors ?? []) : []
          for (const { field, message } of refused) form.setError(field as FieldPath<Fields>, { type: 'server', message })
        }
      })()
      return answer
    },
    message: mutation.error ? messageOf(mutation.error) : errors.root?.message,
    busy: mutation.isPending,
  }
}

function typedBefore(draft: string): object {
  try {
    return JSON.parse(draft)
  } catch {
    return {}
  }
}
