package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.PartitionTable;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.rescue.BootImage;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.copy.StickImage;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import java.io.IOException;
import java.util.List;
import java.util.Random;

/**
 * What can be overwritten here, and the work that overwrites. All sizes are the sizes the office knows the devices by. Whoever calls has
 * asked {@link app.granary.core.target.OverwriteRules}; each work makes sure once more that the target is the one confirmed. Safe for
 * several threads.
 */
public interface Overwriting {
    /**
     * Disks that are there, in order of name; drives images lie on and disks built into computers among them. Nothing on them is read, so
     * none says what it holds.
     */
    List<TargetDisk> targets() throws IOException;

    /** One of them, with what it holds; refused when it is not there. */
    TargetLook target(String id) throws IOException;

    /** What an image, or a disk, would look like on a target. */
    RestoreLayout layout(From from, String targetId, Firmware firmware, LayoutChoice choice) throws IOException;

    /**
     * Where on the target's machine file systems would be made smaller: the place with most room.
     *
     * @throws app.granary.core.fault.FaultException when none has as much
     */
    ScratchRoom scratch(String targetId, long neededBytes) throws IOException;

    /** Writes it. */
    RestoreOutcome write(From from, Confirmed target, Firmware firmware, LayoutChoice choice, How how, Watch watch) throws IOException;

    /** Files that can be written onto a stick as they are, in order of name; those that cannot say why. */
    List<RawFile> rawFiles() throws IOException;

    /** Writes one of them. */
    RestoreOutcome writeRaw(String rawFileId, Confirmed target, Watch watch) throws IOException;

    /**
     * Keeps a stick byte for byte as one of those files, read twice: from the stick, and back from the file.
     *
     * @param name of the file; what had that name before is replaced
     * @throws app.granary.core.fault.FaultException when it is in use, or not the one that is meant
     */
    StickImage keepRaw(String targetId, DiskIdentity stick, String name, Watch watch) throws IOException;

    /** SHA-256 of one of those files, 64 hexadecimal digits. */
    String digestRaw(String rawFileId, Watch watch) throws IOException;

    /** Makes a drive ready. */
    PartitionTable prepare(Preparation how, Confirmed target, Random ids, Watch watch) throws IOException;

    /**
     * Room for a scratch file.
     *
     * @param where in words: a destination, or the machine's own folder
     */
    record ScratchRoom(String where, long freeBytes) {
    }

    /** What is written onto a target. */
    sealed interface From {
        /** An image. */
        record Image(ImageAt at) implements From {
        }

        /**
         * A disk, as it is now.
         *
         * @param allSectors whether what is not in use is copied too, as after files were deleted that are to be found again
         */
        record Disk(String diskId, boolean allSectors) implements From {
            /** What is in use. */
            public Disk(String diskId) {
                this(diskId, false);
            }

            public SurveyChoice choice() {
                return allSectors ? SurveyChoice.ALL_BLOCKS : SurveyChoice.USED;
            }
        }

        /** An image that other tools made, as it was taken on. */
        record Elsewhere(String destinationId, ElsewhereImage image) implements From {
        }

        /**
         * What a virtual computer left of the disk of an image.
         *
         * @param image it was started from
         * @param disk  which is read, on the office's own machine
         */
        record Changed(ImageAt image, Opening disk) implements From {
        }
    }

    /** Opens a disk anew; whoever does closes it. */
    interface Opening {
        BlockSource open() throws IOException;
    }

    /**
     * A target, and what it was when a person confirmed it.
     *
     * @param holds what was on it, as {@link TargetLook#holds} tells it
     */
    record Confirmed(String targetId, DiskIdentity identity, List<String> holds) {
        public Confirmed {
            holds = List.copyOf(holds);
        }

        public static Confirmed of(TargetLook now) {
            return new Confirmed(now.disk().id(), now.disk().identity(), now.holds());
        }
    }

    /**
     * How it is written.
     *
     * @param zeroUnused   whether blocks that are not in use become zeros
     * @param acceptDamage whether damaged parts of an image are passed over
     * @param checkFirst   whether the image is proven readable first
     * @param carryOn      whether work that was broken off is carried on
     * @param onlyChanges  whether the target is read first, and only what differs is written
     */
    record How(boolean zeroUnused, boolean acceptDamage, boolean checkFirst, boolean carryOn, boolean onlyChanges) {
        /** All of it is written. */
        public How(boolean zeroUnused, boolean acceptDamage, boolean checkFirst, boolean carryOn) {
            this(zeroUnused, acceptDamage, checkFirst, carryOn, false);
        }
    }

    /**
     * A file that may be written onto a stick.
     *
     * @param liesOn serials of the disk it lies on
     * @param where  the same in words
     */
    record RawFile(String id, String name, long bytes, String where, List<String> liesOn, BootImage content) {
    }
}
