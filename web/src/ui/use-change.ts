import { type QueryKey, useMutation, useQueryClient } from '@tanstack/react-query'
import { messageOf } from '../api/http.ts'
import { say } from './toasts.ts'

interface ChangeOptions<Input, Answer> {
  send: (input: Input) => Promise<Answer>
  /** What is read again once the change is known to be kept or refused. */
  refresh?: readonly QueryKey[]
  /** How a list looks with the change, shown before the server has answered; put back where it refuses. */
  shown?: { queryKey: QueryKey; as: (known: never, input: Input) => unknown }
  /** What is said when it is kept. */
  said?: (input: Input) => string
  /** Takes the change back; offered beside what is said. */
  undo?: (answer: Answer, input: Input) => Promise<unknown>
}

/** One change at the server: shown at once, put back where it is refused, said with its undo when it is kept. */
export function useChange<Input = void, Answer = unknown>({ send, refresh = [], shown, said, undo }: ChangeOptions<Input, Answer>) {
  const queryClient = useQueryClient()
  const readAgain = () => Promise.all(refresh.map((queryKey) => queryClient.invalidateQueries({ queryKey })))
  const mutation = useMutation({
    mutationFn: send,
    onMutate: async (input) => {
      if (!shown) return undefined
      await queryClient.cancelQueries({ queryKey: shown.queryKey })
      const before = queryClient.getQueryData(shown.queryKey)
      if (before !== undefined) queryClient.setQueryData(shown.queryKey, shown.as(before as never, input))
      return { before }
    },
    onError: (error, _input, context) => {
      if (!shown || !context) return
      queryClient.setQueryData(shown.queryKey, context.before)
      say(messageOf(error))
    },
    onSuccess: (answer, input) => {
      if (!said) return
      say(said(input), undo && (() => undo(answer, input).then(readAgain)))
    },
    onSettled: readAgain,
  })
  return {
    /** Makes the change; `undefined` where it was refused, and `trouble` says why. A second press while it is under way is the same press. */
    change: async (input: Input): Promise<Answer | undefined> =>
      mutation.isPending ? undefined : mutation.mutateAsync(input).catch(() => undefined),
    trouble: mutation.error ? messageOf(mutation.error) : undefined,
    busy: mutation.isPending,
  }
}
