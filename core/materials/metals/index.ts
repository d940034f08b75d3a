/** Every grade, in the order pages list them. A new metal is one file beside this one and one line here. */
import { metal as m14301 } from './1.4301';
import { metal as m14307 } from './1.4307';
import { metal as m14404 } from './1.4404';
import { metal as m14462 } from './1.4462';
import { metal as m14541 } from './1.4541';
import { metal as m5052 } from './5052';
import { metal as m5083 } from './5083';
import { metal as m6061 } from './6061';
import type { MaterialGroup, Metal } from './metal';
import { metal as s235 } from './S235';

export const METALS: readonly Metal[] = [m14301, m14307, m14404, m14541, m14462, s235, m5052, m5083, m6061];

/** By group: the grade whose curves and practice stand for a shop's own metal of it. A group without one does not compile. */
export const GROUP_GRADE = { austenitic: m14301, duplex: m14462, 'carbon-steel': s235, aluminium: m5083 } satisfies Record<MaterialGroup, Metal>;
