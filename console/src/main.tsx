import { MantineProvider } from '@mantine/core';
import '@mantine/core/styles.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { makeQueryClient } from './api/queries';
import { signIn } from './api/session';
import './console.css';
import { Shell } from './shell/Shell';
import { theme } from './theme';

const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';

await signIn();
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto" getStyleNonce={() => nonce}>
      <QueryClientProvider client={makeQueryClient()}>
        <Shell />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
