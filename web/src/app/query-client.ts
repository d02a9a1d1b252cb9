import { QueryClient } from '@tanstack/react-query'
import { mayRecover } from '../api/http.ts'

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => failures < 2 && mayRecover(error),
      retryDelay: 400,
      staleTime: 5_000,
      gcTime: 7 * 86_400_000,
      networkMode: 'always',
    },
  },
})
