/** A page with what was loaded, kept for all of its parts. */
import { QueryClientProvider } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { queryClient } from './api/queries.ts';

export const withQueries = (page: ReactNode): ReactNode => (
  <QueryClientProvider client={queryClient}>{page}</QueryClientProvider>
);
