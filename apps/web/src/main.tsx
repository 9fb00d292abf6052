import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { ApiError } from './api/client.js';
import { routerOf } from './router.js';
import './styles.css';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // while the database is away everything is asked again until it is back; what is wrong stays wrong
      retry: (n, error) =>
        error instanceof ApiError && error.status === 503
          ? n < 200
          : n < 2 && !(error instanceof ApiError && error.status >= 400 && error.status < 500),
      retryDelay: (n, error) => (error instanceof ApiError && error.status === 503 ? 3000 : Math.min(1000 * 2 ** n, 30_000)),
      staleTime: 30_000,
      refetchOnWindowFocus: false,
    },
  },
});

const router = routerOf(client);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
