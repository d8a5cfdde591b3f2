package app.granary.engine.disc;

import app.granary.core.destination.DiscPlan;
import app.granary.core.fault.Fault;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * One folder for each disc of an image, to be burned with whatever burns: its share of the parts, everything else of the image on every
 * disc, and a label that says which of how many it is and how the image comes back.
 */
public final class DiscFolders {
    private static final Duration PATIENCE = Duration.ofHours(6);
    private static final String LABEL = "label.txt";

    private final Bag bag;
    private final String name;
    private final ImageDescription image;
    private final Map<String, String> digests;
    private final Watch watch;

    private DiscFolders(Bag bag, Watch watch) throws IOException {
        this.bag = bag;
        this.name = bag.folder().toAbsolutePath().normalize().getFileName().toString();
        this.image = bag.content().description();
        this.digests = bag.manifest(Bag.MANIFEST).digests();
        this.watch = watch;
    }

    /**
     * @param folder    where they are made; existing, and without folders of that name
     * @param discBytes that one disc takes
     * @param iso       whether an image of each is made too, as {@link #iso} does
     * @return the folders, in order
     * @throws app.granary.core.fault.FaultException when a part is longer than a disc, or something is there already; then nothing is left
     */
    public static List<Path> make(Bag bag, Path folder, long discBytes, boolean iso, Watch watch) throws IOException {
        return new DiscFolders(bag, watch).make(folder, discBytes, iso);
    }

    private List<Path> make(Path folder, long discBytes, boolean iso) throws IOException {
        List<DiscPlan.Item> parts = new ArrayList<>();
        for (ImageDescription.Part each : image.parts()) {
            parts.add(new DiscPlan.Item("data/" + each.name(), Files.size(bag.folder().resolve("data").resolve(each.name()))));
        }
        List<String> everywhere = everywhere(parts);
        long bytes = 0;
        for (String each : everywhere) {
            bytes += Files.size(bag.folder().resolve(each));
        }
        List<List<String>> discs = DiscPlan.of(parts, bytes, discBytes).discs();
        List<Path> out = new ArrayList<>();
        List<Path> isos = new ArrayList<>();
        try {
            for (int i = 0; i < discs.size(); i++) {
                Path disc = folder.resolve(name + "-disc-" + (i + 1) + "-of-" + discs.size());
                if (Files.exists(disc, LinkOption.NOFOLLOW_LINKS)) {
                    throw Fault.of(Fault.Kind.BAD_CHOICE, disc.toString(), disc
                        + " is there already; nothing was written over. Remove it, or "
                        + "name another folder.").asException();
                }
                out.add(Files.createDirectory(disc));
                lay(disc, Stream.concat(everywhere.stream(), discs.get(i).stream()).toList());
                Files.writeString(disc.resolve(LABEL), label(i + 1, discs.size(), discs.get(i)), StandardCharsets.UTF_8);
                Folders.sync(disc);
            }
            for (Path each : iso ? out : List.<Path>of()) {
                isos.add(iso(each, watch));
            }
        } catch (IOException | RuntimeException failed) {
            for (Path each : out) {
                Folders.delete(each);
            }
            for (Path each : isos) {
                Files.delete(each);
            }
            throw failed;
        }
        return out;
    }

    /** All files of the image but its parts. */
    private List<String> everywhere(List<DiscPlan.Item> parts) throws IOException {
        List<String> names = parts.stream().map(DiscPlan.Item::name).toList();
        try (Stream<Path> files = Files.walk(bag.folder(), 2)) {
            return files.filter(each -> Files.isRegularFile(each, LinkOption.NOFOLLOW_LINKS))
                .map(each -> bag.folder().relativize(each).toString().replace(java.io.File.separatorChar, '/'))
                .filter(each -> !names.contains(each)).sorted().toList();
        }
    }

    /** The same file by another name where the drive can do that: an image is never changed, and takes its room once. */
    private void lay(Path disc, List<String> files) throws IOException {
        for (String each : files) {
            watch.requireGoingOn(each);
            Path to = disc.resolve(name).resolve(each);
            Files.createDirectories(to.getParent());
            try {
                Files.createLink(to, bag.folder().resolve(each));
            } catch (IOException | UnsupportedOperationException notThere) {
                Files.copy(bag.folder().resolve(each), to, StandardCopyOption.COPY_ATTRIBUTES);
            }
        }
    }

    private String label(int number, int of, List<String> parts) {
        StringBuilder out = new StringBuilder();
        out.append("Disc ").append(number).append(" of ").append(of).append(" of the disk image ").append(name).append("\n\n")
            .append("Of the disk ").append(image.disk().model()).append(", serial ").append(image.disk().serial()).append(", ")
            .append(image.disk().sizeBytes()).append(" bytes, as it was on ").append(image.madeAt()).append('\n')
            .append(image.encrypted() ? "Encrypted: without its passphrase it is lost.\n" : "").append("\nOn this disc (SHA-256):\n");
        parts.forEach(each -> out.append(digests.getOrDefault(each, "")).append("  ").append(each).append('\n'));
        return out.append("\nTo bring it back, copy the folder ").append(name).append(" of all discs into one folder, then:\n")
            .append("  cd ").append(name).append(" && sha256sum -c ").append(Bag.MANIFEST).append('\n')
            .append("  granary restore ").append(name).append(" TARGET\n")
            .append("How it comes back with standard tools only stands in its format's description.\n").toString();
    }

    /**
     * An ISO 9660 image of a disc's folder, with long names (Rock Ridge and Joliet), beside it.
     *
     * @throws app.granary.core.fault.FaultException when xorriso is not installed, or fails; then nothing is left of it
     */
    public static Path iso(Path disc, Watch watch) throws IOException {
        Path iso = disc.resolveSibling(disc.getFileName() + ".iso");
        Path partial = disc.resolveSibling(disc.getFileName() + ".iso.partial");
        String volume = disc.getFileName().toString().toUpperCase(java.util.Locale.ROOT).replaceAll("[^A-Z0-9]+", "_");
        try {
            SystemTool.Said said = SystemTool.run(List.of("xorriso", "-as", "mkisofs", "-quiet", "-iso-level", "3", "-r", "-J", "-V",
                volume.substring(Math.max(0, volume.length() - 32)), "-o", partial.toString(), disc.toString()), true, PATIENCE,
                "Install xorriso, or burn the folder itself.", watch);
            if (said.exit() != 0) {
                throw Fault.of(Fault.Kind.DEVICE_FAILED, disc.toString(), "xorriso could not make an image of " + disc + ": " + said.text())
                    .asException();
            }
            Files.move(partial, iso, StandardCopyOption.ATOMIC_MOVE);
            return iso;
        } finally {
            Files.deleteIfExists(partial);
        }
    }
}
