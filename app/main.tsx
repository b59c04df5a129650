import './zod-config';
import '@fontsource-variable/instrument-sans/index.css';
import './styles.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { whenIdle } from './figures/use-idle';
import { Pages } from './router';
import { loadAnew, registerServiceWorker } from './shell/service-worker';

// Another version was built while this page was open: its parts are gone from the server.
addEventListener('vite:preloadError', (event) => {
  if (loadAnew()) event.preventDefault();
});

const root = document.getElementById('root');
if (!root) throw new TypeError('the page has no root element');
createRoot(root).render(
  <StrictMode>
    <BrowserRouter>
      <Pages />
    </BrowserRouter>
  </StrictMode>,
);

// The face of the headings comes when all else is there, and so does what works without a network.
addEventListener('load', () =>
  whenIdle(() => {
    void import('@fontsource-variable/bricolage-grotesque/index.css');
    registerServiceWorker();
  }),
);
