package app.granary.server.rescue;

import app.granary.core.disk.DiskIdentity;
import java.util.UUID;

/**
 * Which stick into which file.
 *
 * @param file     its name, beside Granary's own data
 * @param targetId where the stick is plugged in
 * @param stickId  of the stick in the register
 */
record KeepOrder(String file, String targetId, DiskIdentity stick, String name, UUID stickId) {
}
