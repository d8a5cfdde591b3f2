package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.BadStretch;
import app.granary.core.image.ImageName;
import app.granary.engine.openpgp.OpenPgp;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.source.Folders;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Stream;

/** A capture that did not come to its end, as its log and its files tell. It is no image; it can be carried on, or discarded. */
public final class Unfinished {
    private final Path partial;
    private final ImageName name;
    private final Begun begun;
    private final FrameIndex index = new FrameIndex();
    private final List<Row> rows = new ArrayList<>();
    private final List<ImageDescription.Part> ended = new ArrayList<>();
    private final List<BadStretch> bad = new ArrayList<>();
    private long safeBytes;

    /** A line of the log that stands for frames, and how many bad stretches were told of before it. */
    record Row(long count, int storedBytes, int crc, int stateCrc, boolean zeros, int badBefore) {
    }

    private Unfinished(Path partial, ImageName name, Begun begun) {
        this.partial = partial;
        this.name = name;
        this.begun = begun;
    }

    /** All on a destination that can be carried on and nobody is writing now, in order of name. */
    public static List<Unfinished> in(Path destination) throws IOException {
        List<Unfinished> out = new ArrayList<>();
        for (ImageName name : nameless(destination)) {
            try {
                out.add(open(destination, name));
            } catch (FaultException unusable) {
                // no log, or one that cannot be read: there is nothing to carry on, see remains
            }
        }
        return out;
    }

    /** @throws app.granary.core.fault.FaultException when there is none by that name, or its log cannot be read */
    public static Unfinished open(Path destination, ImageName name) throws IOException {
        Path partial = destination.resolve(name.text() + ImageName.PARTIAL);
        try (BufferedReader lines = log(destination, name)) {
            LineReader reader = new LineReader(lines);
            Unfinished out = new Unfinished(partial, name, Begun.parse(reader.next(), CaptureLog.of(partial).getFileName().toString()));
            out.read(reader);
            return out;
        }
    }

    private static BufferedReader log(Path destination, ImageName name) throws IOException {
        Path partial = destination.resolve(name.text() + ImageName.PARTIAL);
        Path log = CaptureLog.of(partial);
        if (!Files.isRegularFile(log, LinkOption.NOFOLLOW_LINKS) || !Files.isDirectory(partial, LinkOption.NOFOLLOW_LINKS)) {
            boolean left = isAnything(partial);
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, partial.toString(),
                left ? name.text() + " was broken off before there was anything to carry on. Start it over (in a shell: --start-over)."
                    : "There is no unfinished capture " + name.text() + " on that destination.")
                .asException();
        }
        return Files.newBufferedReader(log, StandardCharsets.ISO_8859_1);
    }

    /** Whole lines only, none longer than a log has; empty at the end or at the first that is not one. */
    private static final class LineReader {
        private static final int LONGEST = 100_000;
        private final BufferedReader in;

        LineReader(BufferedReader in) {
            this.in = in;
        }

        String next() throws IOException {
            StringBuilder line = new StringBuilder();
            for (int c = in.read(); c >= 0 && line.length() < LONGEST; c = in.read()) {
                if (c == '\n') {
                    return line.toString();
                }
                line.append((char) c);
            }
            return "";
        }
    }

    private void read(LineReader reader) throws IOException {
        String line = reader.next();
        while (!line.isEmpty() && take(line.split(" "))) {
            line = reader.next();
        }
    }

    private boolean take(String[] words) {
        try {
            long first = Long.parseLong(words[1]);
            switch (words[0]) {
                case "f" -> rows.add(row(1, first, words[2], words[3], false));
                case "z" -> rows.add(row(first, Long.parseLong(words[2]), words[3], "0", true));
                case "b" -> bad.add(new BadStretch(first, Long.parseLong(words[2])));
                case "p" -> ended.add(new ImageDescription.Part(names().of(ended.size()), first, Long.parseLong(words[2])));
                case "s" -> safeBytes = first;
                default -> {
                    return false;
                }
            }
            return true;
        } catch (IllegalArgumentException | ArrayIndexOutOfBoundsException torn) {
            return false; // what the machine's end left half written; nothing behind it counts
        }
    }

    private Row row(long count, long storedBytes, String crc, String stateCrc, boolean zeros) {
        if (count <= 0 || storedBytes <= 0 || storedBytes > Integer.MAX_VALUE || count > Long.MAX_VALUE / storedBytes) {
            throw new IllegalArgumentException("impossible row");
        }
        return new Row(count, (int) storedBytes, Integer.parseUnsignedInt(crc), Integer.parseUnsignedInt(stateCrc), zeros, bad.size());
    }

    PartNames names() {
        return PartNames.of(begun.codec(), begun.disk().sizeBytes(), begun.splitBytes(), begun.encrypted());
    }

    public Path partial() {
        return partial;
    }

    public ImageName name() {
        return name;
    }

    public Begun begun() {
        return begun;
    }

    /** Bytes of all its files. */
    public long storedBytes() throws IOException {
        return Folders.bytes(partial);
    }

    /** Frames its log knows of; how many of them are kept shows only when it is carried on. */
    public long chunks() {
        return rows.stream().mapToLong(Row::count).sum();
    }

    /** What is kept of it, and the way to write on behind that. */
    public final class Kept {
        private final UnfinishedCut cut;
        private final FrameIndex index;
        private final StateSums states;
        private final Passphrase passphrase;

        private Kept(UnfinishedCut cut, Passphrase passphrase) {
            this.cut = cut;
            this.index = cut.index();
            this.states = StateSums.of(cut.rows());
            this.passphrase = passphrase;
        }

        /** The frames that are kept. */
        public FrameIndex index() {
            return index;
        }

        /** Whether a kept chunk was made of these bytes. */
        public boolean isOf(long chunk, byte[] raw, int length) {
            return states.isOf(index, chunk, raw, length);
        }

        /** Removes what is not kept, and opens the rest for more. */
        public BagWriter open() throws IOException {
            return BagWriter.carryOn(Unfinished.this, cut, passphrase);
        }
    }

    /**
     * @param passphrase the one it was begun with, none when it is not encrypted
     * @throws app.granary.core.fault.FaultException of kind LOCKED when it does not open what is there
     */
    public Kept kept(Passphrase passphrase) throws IOException {
        UnfinishedCut cut = new CutFinder(partial, begun, new CutFinder.Told(rows, bad, ended, safeBytes), names()).find();
        if (begun.encrypted() && !cut.ended().isEmpty()) {
            String first = cut.ended().get(0).name();
            try (InputStream in = Files.newInputStream(partial.resolve("data").resolve(first))) {
                OpenPgp.decrypting(in, passphrase, "data/" + first);
            }
        }
        return new Kept(cut, passphrase);
    }

    /**
     * Removes whatever an image of that name left before it had its name; its log last, so that what is half removed is still known for
     * what it is.
     *
     * @return whether there was anything
     * @throws app.granary.core.fault.FaultException when somebody is writing it
     */
    public static boolean discard(Path destination, ImageName name) throws IOException {
        Path partial = destination.resolve(name.text() + ImageName.PARTIAL);
        try (PartialLock lock = PartialLock.hold(partial)) {
            boolean there = isAnything(partial);
            Folders.delete(partial);
            Files.deleteIfExists(CaptureLog.fresh(partial));
            Files.deleteIfExists(CaptureLog.of(partial));
            Folders.sync(destination);
            return there;
        }
    }

    /**
     * Names of what lies on a destination without a name and cannot be carried on: a capture that ended before the first line of its log, a
     * copy.
     */
    public static List<ImageName> remains(Path destination) throws IOException {
        List<ImageName> out = new ArrayList<>();
        for (ImageName name : nameless(destination)) {
            if (!isCapture(destination, name)) {
                out.add(name);
            }
        }
        return out;
    }

    /** Whether what lies there under that name without being named is a capture that was begun, and not the remains of something else. */
    public static boolean isCapture(Path destination, ImageName name) throws IOException {
        try (BufferedReader log = log(destination, name)) {
            Begun.parse(new LineReader(log).next(), name.text());
            return true;
        } catch (FaultException unusable) {
            return false;
        }
    }

    private static boolean isAnything(Path partial) {
        return Files.exists(partial, LinkOption.NOFOLLOW_LINKS) || Files.exists(CaptureLog.of(partial), LinkOption.NOFOLLOW_LINKS);
    }

    private static void sweep(Path lock) throws IOException {
        String file = lock.getFileName().toString();
        Path partial = lock.resolveSibling(file.substring(0, file.length() - PartialLock.ENDING.length()));
        if (!isAnything(partial)) {
            LockFile.sweep(lock);
        }
    }

    /**
     * Of folders and logs without a name that nobody is writing now, in order. A lock whose holder was killed before it made anything is
     * all there is of it, and goes.
     */
    private static List<ImageName> nameless(Path destination) throws IOException {
        TreeMap<String, ImageName> out = new TreeMap<>();
        if (!Files.isDirectory(destination)) {
            return List.of();
        }
        List<Path> there;
        try (Stream<Path> entries = Files.list(destination)) {
            there = entries.toList();
        }
        for (Path path : there) {
            String file = path.getFileName().toString();
            if (file.endsWith(ImageName.PARTIAL + PartialLock.ENDING)) {
                sweep(path);
                continue;
            }
            String partial = file.endsWith(ImageName.PARTIAL) && Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS) ? file
                : file.endsWith(ImageName.PARTIAL + ".log") ? file.substring(0, file.length() - ".log".length()) : "";
            if (!partial.isEmpty()) {
                try {
                    ImageName name = ImageName.parse(partial.substring(0, partial.length() - ImageName.PARTIAL.length()));
                    if (PartialLock.isLeft(destination.resolve(partial))) {
                        out.put(name.text(), name);
                    }
                } catch (FaultException noNameOfOurs) {
                    // somebody else's
                }
            }
        }
        return List.copyOf(out.values());
    }
}
