import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App } from './app'
import { outbox } from './api/outbox'
import { Refused } from './api/client'
import './styles.css'

const cache = new QueryClient({
  defaultOptions: { queries: { retry: (n, error) => !(error instanceof Refused) && n < 3, staleTime: 1000 } },
})
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
