package app.granary.server.inside;

import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FilePlace;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Insides;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import org.springframework.stereotype.Service;

/** Fetches files out of images; the journal says who fetched what from which image, before the first byte goes. */
@Service
class Fetches {
    /**
     * Files up to so long are read to their end before the first byte goes, so that damage is told instead of a broken file. Each takes so
     * much memory until it has gone.
     */
    private static final int WHOLE = 8 << 20;
    private static final int PIPE = 1 << 20;
    private static final String FOLDER = "granary-fetched/";
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("uuuu-MM-dd-HHmmss-SSS").withZone(ZoneOffset.UTC);

    private final Looks looks;
    private final Insides insides;
    private final Images images;
    private final ImageStore store;
    private final Journal journal;
    private final Clock clock;
    private Instant last = Instant.EPOCH;

    Fetches(Looks looks, Insides insides, Images images, ImageStore store, Journal journal, Clock clock) {
        this.looks = looks;
        this.insides = insides;
        this.images = images;
        this.store = store;
        this.journal = journal;
        this.clock = clock;
    }

    /** What writes the bytes. */
    interface Body {
        void to(OutputStream out) throws IOException;
    }

    /** @param bytes how many will come; -1 when that is not known beforehand */
    record Outgoing(String name, long bytes, Body body) {
    }

    private record Wanted(UUID imageId, FilePlace place, FileFacts facts, InsideFiles files, String account) {
        boolean folder() {
            return facts.line().leadsDown();
        }

        String name() {
            String own = place.names().isEmpty() ? "partition-" + place.partition() : place.names().get(place.names().size() - 1);
            return folder() ? own + ".zip" : own;
        }
    }

    private Wanted wanted(UUID imageId, FilePlace place, String account) throws IOException {
        InsideFiles files = looks.files(imageId, account);
        FileFacts facts = insides.file(files.image(), place);
        if (!facts.line().unreadable().isEmpty()) {
            throw Fault.of(Fault.Kind.UNSUPPORTED, place.toString(), "\"" + facts.line().name() + "\" cannot be fetched: "
                + facts.line().unreadable() + ".").asException();
        }
        if (!facts.line().leadsDown() && !facts.line().kind().equals("file")) {
            throw Fault.of(Fault.Kind.UNSUPPORTED, place.toString(), "\"" + facts.line().name() + "\" is neither a file nor a folder.")
                .asException();
        }
        return new Wanted(imageId, place, facts, files, account);
    }

    Outgoing open(UUID imageId, FilePlace place, String account) throws IOException {
        Wanted wanted = wanted(imageId, place, account);
        long bytes = wanted.folder() ? -1 : wanted.facts.line().bytes();
        if (wanted.folder() || bytes > WHOLE) {
            tell(wanted, Journal.Result.BEGUN, "begins to fetch", "");
            return new Outgoing(wanted.name(), bytes, out -> told(wanted, out));
        }
        byte[] whole = wanted.files.content(place).readNBytes(WHOLE);
        tell(wanted, Journal.Result.DONE, "fetched", "");
        return new Outgoing(wanted.name(), whole.length, out -> out.write(whole));
    }

    /** Long ones end in a second line. */
    private void told(Wanted wanted, OutputStream out) throws IOException {
        try {
            if (wanted.folder()) {
                InsideFiles.Zipped zipped = wanted.files.zip(wanted.place, out);
                tell(wanted, Journal.Result.DONE, "fetched", ": " + counted(zipped));
            } else {
                wanted.files.content(wanted.place).transferTo(out);
                tell(wanted, Journal.Result.DONE, "fetched", "");
            }
        } catch (IOException failed) {
            tell(wanted, Journal.Result.FAILED, "could not fetch", ": " + failed.getMessage());
            throw failed;
        }
    }

    private static String counted(InsideFiles.Zipped zipped) {
        return zipped.files() + (zipped.files() == 1 ? " file, " : " files, ") + Sizes.decimal(zipped.bytes())
            + (zipped.passedOver().isEmpty() ? "" : ", " + zipped.passedOver().size() + " could not be read");
    }

    /** One of its own for each, also of two in one moment, so that nothing that lies there is written over. */
    private synchronized String folder() {
        Instant now = clock.instant().truncatedTo(ChronoUnit.MILLIS);
        last = now.isAfter(last) ? now : last.plusMillis(1);
        return FOLDER + STAMP.format(last);
    }

    /** @return where it is now, in a sentence */
    String put(UUID imageId, FilePlace place, String destinationId, String account) throws IOException {
        Wanted wanted = wanted(imageId, place, account);
        String folder = folder();
        String onto = images.destinationName(destinationId);
        try {
            if (wanted.folder()) {
                zipped(wanted, destinationId, folder);
            } else {
                store.putFile(destinationId, folder, wanted.name(), wanted.files.content(place));
            }
        } catch (IOException failed) {
            tell(wanted, Journal.Result.FAILED, "could not fetch", " onto " + onto + ": " + failed.getMessage());
            throw failed;
        }
        tell(wanted, Journal.Result.DONE, "fetched", " onto " + onto + ", " + folder + "/" + wanted.name());
        return "On " + onto + ", in " + folder + ": " + wanted.name() + ".";
    }

    private void zipped(Wanted wanted, String destinationId, String folder) throws IOException {
        try (InputStream in = new PipedInputStream(PIPE); PipedOutputStream out = new PipedOutputStream((PipedInputStream) in)) {
            CompletableFuture<Void> packing = CompletableFuture.runAsync(() -> {
                try (out) {
                    wanted.files.zip(wanted.place, out);
                } catch (IOException failed) {
                    throw new CompletionException(failed);
                }
            });
            store.putFile(destinationId, folder, wanted.name(), new Whole(in, packing));
        }
    }

    /** Ends only where the packing did without a fault, so that half a ZIP is never named. */
    private static final class Whole extends java.io.FilterInputStream {
        private final CompletableFuture<Void> packing;

        Whole(InputStream in, CompletableFuture<Void> packing) {
            super(in);
            this.packing = packing;
        }

        @Override
        public int read(byte[] into, int offset, int length) throws IOException {
            int count = super.read(into, offset, length);
            if (count < 0) {
                try {
                    packing.join();
                } catch (CompletionException failed) {
                    throw failed.getCause() instanceof IOException known ? known : new IOException(failed.getCause());
                }
            }
            return count;
        }
    }

    private void tell(Wanted wanted, Journal.Result result, String did, String more) {
        Images.Shelved image = images.shelved(wanted.imageId);
        journal.add(wanted.account, "fetch", image.computer() + " " + image.disk(), result, wanted.account + " " + did + " " + wanted.place
            + (wanted.folder() ? "" : ", " + Sizes.decimal(wanted.facts.line().bytes())) + ", from image " + image.name() + more + ".",
            Journal.Facts.of(List.of(image.serial()), Map.of("bytes", wanted.facts.line().bytes()), "/images/" + wanted.imageId
                + "/inside"));
    }
}
