package app.granary.server.repair;

import app.granary.core.proof.ProofLevel;
import com.fasterxml.jackson.annotation.JsonAlias;

/**
 * @param fromDestinationId where the copy lies that it is repaired from
 * @param proof             how far it is proven afterwards
 */
record RepairOrder(@JsonAlias("otherId") String fromDestinationId, ProofLevel proof) {
}
