import { type Session, signIn } from '@fleam/contract/people'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { ProblemFailure, send } from '../../api/http.ts'
import { sessionQuery } from '../../api/queries.ts'
import { sessionIsSettled } from '../../api/session-over.ts'
import { signedInAgain } from '../../api/sign-out.ts'
import { outbox } from '../../outbox/tablet-outbox.ts'
import { useRequestForm } from '../../ui/request-form.ts'

const nothing = { name: '', secret: '', kitchen: '', code: '' }

/** Signing in, and going on to where one wanted to go. */
export function useSignIn() {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [search] = useSearchParams()
  const [asksCode, setAsksCode] = useState(false)
  const request = useRequestForm({
    start: nothing,
    schema: signIn,
    toRequest: ({ kitchen, ...fields }) => ({ ...fields, ...(kitchen ? { kitchen } : {}) }),
    send: async (asked) => {
      try {
        return await send<Session>('POST', '/session', asked)
      } catch (error) {
        if (error instanceof ProblemFailure && error.kind === 'time-code-needed') setAsksCode(true)
        throw error
      }
    },
  })

  async function enter(): Promise<void> {
    const session = await request.submit()
    if (!session) return
    queryClient.clear()
    sessionIsSettled()
    signedInAgain()
    queryClient.setQueryData(sessionQuery.queryKey, session)
    outbox.tryNow()
    const to = search.get('to')
    navigate(to?.startsWith('/') && !to.startsWith('//') ? to : '/', { replace: true })
  }

  return {
    ...request,
    asksCode,
    enter,
    /** Starts from these fields, and from no code. */
    begin(fields: Partial<typeof nothing>) {
      setAsksCode(false)
      request.form.reset({ ...nothing, ...fields })
    },
  }
}
export type SignIn = ReturnType<typeof useSignIn>
