/** A public address begins on its own, on whatever telephone it is opened: it loads no more than the form needs. */
import '@fontsource-variable/figtree/index.css';
import '@fontsource-variable/bricolage-grotesque/index.css';
import { ApplyPlace } from './places/apply/ApplyPlace.tsx';
import { show } from './show.tsx';

show(<ApplyPlace />);
