import '@fontsource-variable/figtree/index.css';
import '@fontsource-variable/bricolage-grotesque/index.css';
import { RouterProvider } from 'react-router/dom';
import { router } from './app.tsx';
import { show } from './show.tsx';

show(<RouterProvider router={router} />);
