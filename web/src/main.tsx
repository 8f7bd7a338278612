import '@fontsource-variable/figtree/index.css';
import '@fontsource-variable/bricolage-grotesque/index.css';
import { RouterProvider } from 'react-router/dom';
import { router } from './app.tsx';
import { show } from './show.tsx';
import { withQueries } from './withQueries.tsx';

show(withQueries(<RouterProvider router={router} />));
