package app.granary.server.restore;

import app.granary.core.inventory.Firmware;
import app.granary.engine.host.Overwriting;
import java.util.UUID;

/**
 * What is written onto which disk, and how.
 *
 * @param restorationId by which what comes of it is kept
 * @param servedId      of a virtual computer whose disk is written; null for an image or a disk
 * @param copyId        that is restored; null for a disk as it is now
 * @param diskId        that is copied, or whose image it is
 * @param target        as a person confirmed it
 * @param again         whether work that was broken off is carried on
 */
record RestoreOrder(UUID restorationId, UUID servedId, UUID copyId, String diskId, Overwriting.Confirmed target, String targetName,
    Firmware firmware, RestoreChoice choice, boolean again) {
}
