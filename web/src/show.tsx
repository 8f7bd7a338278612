/** Puts a page onto the screen, with the look. */
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { type ReactNode, StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { theme } from './theme/theme.ts';

export function show(page: ReactNode): void {
  const root = document.getElementById('root');
  if (!root) throw new Error('the page has no root');
  createRoot(root).render(
    <StrictMode>
      <ThemeProvider theme={theme} defaultMode="system">
        <CssBaseline />
        {page}
      </ThemeProvider>
    </StrictMode>,
  );
}
