package app.granary.engine.elsewhere;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.PartitionType;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.DiskInside;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;

/** Looks through a folder and what is below it for disk images, by the start of every file. Symbolic links are not followed. */
public final class ElsewhereScan {
    /** A drive full of other things is not read through for ever; what is found by then is shown. */
    static final int MOST_FILES = 20_000;
    private static final int DEEPEST = 8;
    /** No disk with a table or a file system in it is shorter, packed or not; a part may well be. */
    private static final long SHORTEST = 64;

    private final Path root;
    private final Watch watch;
    private final List<ElsewhereImage> found = new ArrayList<>();
    private int looked;

    /**
     * @param images by folder and name
     * @param all    false when there was more than is looked at
     */
    public record Found(List<ElsewhereImage> images, boolean all) {
    }

    /** @param root without links, as are the folders below it that are looked through */
    private ElsewhereScan(Path root, Watch watch) {
        this.root = root;
        this.watch = watch;
    }

    /**
     * @param root   of the destination
     * @param folder below it, with slashes; an empty string for all of it
     * @throws app.granary.core.fault.FaultException when the folder is not there, or leads out of the destination
     */
    public static Found in(Path root, String folder, Watch watch) throws IOException {
        ElsewhereScan scan = new ElsewhereScan(root.toRealPath(), watch);
        Path begin = within(root, folder);
        if (begin.startsWith(root.toRealPath().resolve(app.granary.engine.release.Trash.FOLDER))) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, folder, "\"" + folder
                + "\" is the trash of that drive: what lies there was released and goes. Take an image back from the trash under What "
                + "stays.")
                .asException();
        }
        Deque<Path> open = new ArrayDeque<>(List.of(begin));
        while (!open.isEmpty() && scan.looked < MOST_FILES) {
            scan.folder(open.poll(), open);
        }
        scan.found.sort(Comparator.comparing(ElsewhereImage::folder).thenComparing(ElsewhereImage::name));
        return new Found(scan.found, open.isEmpty() && scan.looked < MOST_FILES);
    }

    /**
     * A folder below a destination, told by its path there.
     *
     * @throws app.granary.core.fault.FaultException when it is not there, or leads out of it, by dots or by a link
     */
    public static Path within(Path root, String folder) throws IOException {
        Path real = root.toRealPath();
        Path path = null;
        try {
            path = real.resolve(folder.replaceAll("^/+", "")).toRealPath();
        } catch (IOException | java.nio.file.InvalidPathException missing) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, folder,
                    "There is no folder \"" + folder + "\" there. Check the path; it begins at the destination's own folder.")
                .asException();
        }
        if (!path.startsWith(real) || !Files.isDirectory(path)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, folder, "\"" + folder + "\" is no folder of that destination. Name one that lies on it.")
                .asException();
        }
        return path;
    }

    private void folder(Path folder, Deque<Path> open) throws IOException {
        watch.requireGoingOn(folder.toString());
        if (Bag.isBag(folder)) {
            bag(folder);
            return;
        }
        List<String> files = new ArrayList<>();
        try (Stream<Path> entries = Files.list(folder)) {
            for (Path entry : entries.sorted().toList()) {
                if (Files.isDirectory(entry, LinkOption.NOFOLLOW_LINKS) && entry.getNameCount() - root.getNameCount() <= DEEPEST
                    && isOpen(entry)) {
                    open.add(entry);
                } else if (Files.isRegularFile(entry, LinkOption.NOFOLLOW_LINKS) && !DigestLists.isList(entry)) {
                    files.add(entry.getFileName().toString());
                }
            }
        } catch (java.nio.file.AccessDeniedException notOurs) {
            return;
        }
        looked += files.size();
        DigestLists digests = DigestLists.of(folder);
        List<PartSets.Set> sets = PartSets.of(files);
        Optional<ShellSet> one = ShellSet.in(folder, sets);
        if (one.isPresent()) {
            found.add(set(folder, one.get(), digests));
        }
        List<String> taken = one.map(ShellSet::files).orElse(List.of());
        for (PartSets.Set set : sets) {
            if (!taken.contains(set.files().get(0))) {
                image(folder, set, digests).ifPresent(found::add);
            }
        }
    }

    private ElsewhereImage set(Path folder, ShellSet set, DigestLists digests) throws IOException {
        List<Partition> lacking = set.lacking();
        String remark = "A disk's table (" + set.table() + ") and " + set.parts().size() + (set.parts().size() == 1 ? " partition" :
            " partitions") + " in files of their own" + (lacking.isEmpty() ? "." : "; not there: "
                + String.join(", ", lacking.stream().map(Partition::label).toList()) + ".");
        DiskInside told = set.inside();
        return new ElsewhereImage(relative(folder), set.table(), ElsewhereImage.Kind.SET, known(folder, set.files(), digests), "", "",
            new DiskInside(told.sizeBytes(), told.scheme(), told.tableId(), told.partitions(), "", remark), writtenAt(folder, set.files()),
            set.trouble(folder));
    }

    private static List<ElsewhereFile> known(Path folder, List<String> names, DigestLists digests) throws IOException {
        List<ElsewhereFile> files = new ArrayList<>();
        for (String name : names) {
            Optional<DigestLists.Known> known = digests.of(name);
            files.add(new ElsewhereFile(name, Files.size(folder.resolve(name)), known.map(DigestLists.Known::digest).orElse(""),
                known.map(DigestLists.Known::source).orElse("")));
        }
        return files;
    }

    /** A file of which nothing is known but its length and its digest, for one that a person names. */
    public static ElsewhereImage kept(Path root, String folder, String name) throws IOException {
        Path in = within(root, folder);
        Path file = in.resolve(name).normalize();
        if (!in.equals(file.getParent()) || !Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, name, "There is no file \"" + name
                + "\" in that folder. Check its name.").asException();
        }
        List<ElsewhereFile> files = known(in, List.of(name), DigestLists.of(in));
        return new ElsewhereImage(root.toRealPath().relativize(in).toString(), name, ElsewhereImage.Kind.KEPT, files, "", "",
            new DiskInside(OptionalLong.empty(), "none", "", List.of(), "", "Kept as found: nobody can tell what is in it."),
            writtenAt(in, List.of(name)), "");
    }

    /** Unfinished captures, what was released and what begins with a dot are none of this. */
    private static boolean isOpen(Path folder) {
        String name = folder.getFileName().toString();
        return !name.startsWith(".") && !name.endsWith(ImageName.PARTIAL) && !name.equals(app.granary.engine.release.Trash.FOLDER)
            && Files.isReadable(folder);
    }

    private String relative(Path folder) {
        return root.relativize(folder).toString().replace(java.io.File.separatorChar, '/');
    }

    private void bag(Path folder) throws IOException {
        looked++;
        String name = folder.getFileName().toString();
        String parent = relative(folder.getParent());
        try {
            Bag bag = Bag.open(folder);
            ImageDescription d = bag.content().description();
            Map<String, String> digests = bag.manifest(Bag.MANIFEST).digests();
            List<ElsewhereFile> files = d.parts().stream()
                .map(p -> new ElsewhereFile(p.name(), p.storedBytes(), digests.getOrDefault("data/" + p.name(), ""), Bag.MANIFEST))
                .toList();
            List<Partition> partitions = d.partitions().stream()
                .map(p -> new Partition(p.number(), p.startBytes(), p.sizeBytes(), PartitionType.of(p.type()), p.name(), "", 0, false))
                .toList();
            found.add(new ElsewhereImage(parent, ImageName.parse(name).text(), ElsewhereImage.Kind.GRANARY, files, "", "",
                new DiskInside(OptionalLong.of(d.disk().sizeBytes()), d.scheme(), "",
                    partitions, d.disk().serial(), ""),
                OffsetDateTime.parse(d.madeAt()).toInstant(), ""));
        } catch (FaultException | java.time.DateTimeException damaged) {
            found.add(new ElsewhereImage(parent, name, ElsewhereImage.Kind.GRANARY, List.of(), "", "",
                new DiskInside(OptionalLong.empty(), "none", "", List.of(), "", ""), Instant.EPOCH,
                damaged.getMessage()));
        }
    }

    private Optional<ElsewhereImage> image(Path folder, PartSets.Set set, DigestLists digests) throws IOException {
        List<ElsewhereFile> files = known(folder, set.files(), digests);
        Optional<ElsewhereImage> virtual = VirtualFiles.look(folder, files);
        if (virtual.isPresent()) {
            return virtual.map(each -> each.in(relative(folder)));
        }
        Optional<Start> start = files.stream().mapToLong(ElsewhereFile::bytes).sum() < SHORTEST ? Optional.empty() : start(folder, files);
        if (start.isEmpty()) {
            return Optional.empty();
        }
        String joined = files.size() > 1 ? digests.of(set.name()).map(DigestLists.Known::digest).orElse("") : "";
        String unpacked = start.get().packing.unpackedName(set.name());
        String content = start.get().packing == Packing.NONE || unpacked.equals(set.name()) ? ""
            : digests.of(unpacked).map(DigestLists.Known::digest).orElse("");
        String trouble = set.gap().isEmpty() ? ""
            : "A part is missing after " + set.gap() + ". Put it back into the folder and look again.";
        return Optional.of(new ElsewhereImage(relative(folder), set.name(), ElsewhereImage.Kind.RAW, files, joined, content,
            start.get().inside, writtenAt(folder, set.files()), trouble));
    }

    private static Instant writtenAt(Path folder, List<String> files) throws IOException {
        Instant newest = Instant.EPOCH;
        for (String file : files) {
            Instant at = Files.getLastModifiedTime(folder.resolve(file), LinkOption.NOFOLLOW_LINKS).toInstant();
            newest = at.isAfter(newest) ? at : newest;
        }
        return newest;
    }

    private record Start(Packing packing, DiskInside inside) {
    }

    /** What a file's start decodes to; empty when that is no disk, or cannot be decoded at all. */
    private static Optional<Start> start(Path folder, List<ElsewhereFile> files) throws IOException {
        try {
            byte[] packed = JoinedFiles.firstBytes(folder, files, Packing.HEAD_BYTES);
            Packing packing = Packing.of(packed);
            return inside(folder, files, packing).map(what -> new Start(packing, what));
        } catch (FaultException stopped) {
            throw stopped;
        } catch (IOException | RuntimeException unreadable) {
            // one file that cannot be read must not hide the others
            return Optional.empty();
        }
    }

    /** As far as it can be told without unpacking all of it; empty when that is no disk. */
    static Optional<DiskInside> inside(Path folder, List<ElsewhereFile> files, Packing packing) throws IOException {
        if (packing == Packing.NONE) {
            JoinedSource disk = new JoinedSource(folder, files, 512);
            return DiskStart.look(new JoinedSource(folder, files, PartitionTables.sectorBytes(disk)));
        }
        try (InputStream in = packing.open(new JoinedFiles(folder, files, false, Watch.NONE))) {
            return DiskStart.look(files.get(0).name(), in.readNBytes(DiskStart.BYTES), OptionalLong.empty());
        }
    }
}
