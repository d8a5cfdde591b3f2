package app.granary.server.target;

import app.granary.core.target.Preparation;
import app.granary.engine.site.Workbench;

/** @param target as a person confirmed it */
record PreparationOrder(Workbench.Confirmed target, Preparation how) {
}
