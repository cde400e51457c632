import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App } from './app'
import { outbox } from './api/outbox'
import { Refused } from './api/client'
import './styles.css'

const cache: QueryClient = new QueryClient({
  // A session that ended shows the sign-in page; what was typed waits in the outbox.
  queryCache: new QueryCache({
    onError: (error, query) => {
      if (error instanceof Refused && error.status === 401 && query.queryKey[0] !== 'session')
        void cache.resetQueries({ queryKey: ['session'] })
    },
  }),
  defaultOptions: { queries: { retry: (n, error) => !(error instanceof Refused) && n < 3, staleTime: 1000 } },
})
outbox.onStranger(() => void cache.resetQueries({ queryKey: ['session'] }))
outbox.start()

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={cache}>
      <Tooltip.Provider delayDuration={200}>
        <App />
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
)
