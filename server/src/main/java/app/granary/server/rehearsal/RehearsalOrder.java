package app.granary.server.rehearsal;

import java.util.UUID;

/** @param rehearsalId by which what is seen is kept */
record RehearsalOrder(UUID rehearsalId, UUID copyId) {
}
