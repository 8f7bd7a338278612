/** The page of a guest begins on its own: it is opened on telephones, so it loads no more than it needs. */
import '@fontsource-variable/figtree/index.css';
import '@fontsource-variable/bricolage-grotesque/index.css';
import { GuestPlace } from './places/guest/GuestPlace.tsx';
import { show } from './show.tsx';
import { withQueries } from './withQueries.tsx';

show(withQueries(<GuestPlace />));
