package app.granary.server.target;

import app.granary.core.target.Preparation;
import app.granary.engine.host.Overwriting;

/** @param target as a person confirmed it */
record PreparationOrder(Overwriting.Confirmed target, Preparation how) {
}
