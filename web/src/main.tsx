import '@fontsource-variable/fraunces/index.css';
import '@fontsource-variable/public-sans/index.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { queryClient } from './platform/api/queries';
import { Application } from './application';
import './platform/theme/global.css';
import { ThemeProvider } from './platform/theme/theme';

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <ThemeProvider>
      <QueryClientProvider client={queryClient}>
        <Application />
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);
