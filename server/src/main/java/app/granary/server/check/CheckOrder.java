package app.granary.server.check;

import app.granary.core.proof.ProofLevel;

/** @param proof how far it goes */
record CheckOrder(ProofLevel proof) {
}
