package app.granary.engine.capture;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.Begun;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.codec.Chunks;
import app.granary.engine.openpgp.Passphrase;
import java.io.IOException;
import java.util.ArrayList;

/** Whether a disk is still what an unfinished capture read of it: two states of one disk in one image would be neither. */
final class CarryOn {
    private final Unfinished unfinished;
    private final BlockSource source;
    private final DiskSurvey survey;
    private final DiskIdentity identity;

    CarryOn(Unfinished unfinished, BlockSource source, DiskSurvey survey, DiskIdentity identity) {
        this.unfinished = unfinished;
        this.source = source;
        this.survey = survey;
        this.identity = identity;
    }

    /** Compares first, and only then cuts behind the last whole frame and opens for more. */
    BagWriter open(Passphrase passphrase) throws IOException {
        Begun begun = unfinished.begun();
        if (!begun.disk().same(identity)) {
            throw refused("it was begun of " + begun.disk().model() + " " + begun.disk().serial() + ", " + begun.disk().sizeBytes()
                + " bytes, and this disk is " + identity.model()
                + " " + identity.serial() + ", " + identity.sizeBytes() + " bytes", "Attach that disk");
        }
        if (begun.encrypted() == passphrase.isNone()) {
            throw Fault
                .of(Fault.Kind.LOCKED, unfinished.name().text(), begun.encrypted() ? "The unfinished capture " + unfinished.name().text()
                    + " is encrypted. Enter the passphrase it was begun with."
                    : "The unfinished capture " + unfinished.name().text() + " is not encrypted; carry it on without a passphrase.")
                .asException();
        }
        if (!begun.surveyed().equals(Begun.digestOf(survey))) {
            throw changed();
        }
        Unfinished.Kept kept = unfinished.kept(passphrase);

        compare(kept);
        return kept.open();
    }

    private void compare(Unfinished.Kept kept) throws IOException {
        ChunkReader reader = new ChunkReader(source, survey.toRead());
        byte[] raw = new byte[Chunks.BYTES];
        for (long chunk : StateSample.beforeCarryingOn(survey, kept.index())) {
            int length = reader.read(chunk, raw, new ArrayList<>());
            if (!kept.isOf(chunk, raw, length)) {
                throw changed();
            }
        }
    }

    private IOException changed() {
        return refused("the disk has changed since, so the two halves would not be of one moment", "Discard what was written");
    }

    private IOException refused(String why, String what) {
        return Fault.of(Fault.Kind.FORBIDDEN, unfinished.name().text(),
            "The unfinished capture " + unfinished.name().text() + " cannot be carried on: " + why + ". "
                + what + ", or capture under another name.")
            .asException();
    }
}
