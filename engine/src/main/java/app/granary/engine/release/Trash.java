package app.granary.engine.release;

import app.granary.core.fault.Fault;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * The trash folder of a drive: {@code granary-trash/KEY/} holds what one release moved, each thing under the path it had on the drive.
 * Moving is a rename on the same file system, so it takes no room and no time, and a power cut leaves a thing in one place or the other.
 */
public final class Trash {
    public static final String FOLDER = "granary-trash";

    private final Path root;

    /** @param root of the drive */
    public Trash(Path root) {
        this.root = root;
    }

    private Path folder(String key) {
        if (!key.matches("[A-Za-z0-9-]{1,60}")) {
            throw new IllegalArgumentException(key);
        }
        return root.resolve(FOLDER).resolve(key);
    }

    /**
     * Moves things into the trash. What was moved by an attempt that did not come to its end is not missed.
     *
     * @param things files and folders below the root
     * @throws app.granary.core.fault.FaultException when one is neither where it was nor in the trash
     */
    public void put(String key, List<Path> things) throws IOException {
        Path trash = folder(key);
        for (Path thing : things) {
            Path to = trash.resolve(root.relativize(thing));
            if (Files.exists(thing, LinkOption.NOFOLLOW_LINKS)) {
                Files.createDirectories(to.getParent());
                Files.move(thing, to, StandardCopyOption.ATOMIC_MOVE);
                Folders.sync(to.getParent());
                Folders.sync(thing.getParent());
            } else if (!Files.exists(to, LinkOption.NOFOLLOW_LINKS)) {
                throw Fault.of(Fault.Kind.NOT_RECOGNISED, root.relativize(thing).toString(),
                    "It is not on the drive any more, so it cannot be released. Look through the drive again.").asException();
            }
        }
    }

    /** Names of all that lies there, whoever moved it; empty where there is no trash. */
    public List<String> keys() throws IOException {
        Path trash = root.resolve(FOLDER);
        if (!Files.isDirectory(trash, LinkOption.NOFOLLOW_LINKS)) {
            return List.of();
        }
        try (Stream<Path> entries = Files.list(trash)) {
            return entries.map(each -> each.getFileName().toString()).sorted().toList();
        }
    }

    /** @return whether there is anything under the key */
    public boolean holds(String key) {
        return Files.isDirectory(folder(key), LinkOption.NOFOLLOW_LINKS);
    }

    /**
     * Moves everything of a release back to where it was.
     *
     * @throws app.granary.core.fault.FaultException when something else lies there meanwhile, or the trash was emptied; nothing is moved
     *                                               then
     */
    public void takeBack(String key) throws IOException {
        if (!holds(key)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, key, "The trash was emptied; it cannot be taken back.").asException();
        }
        Path trash = folder(key);
        List<Path> things = things(trash);
        for (Path thing : things) {
            Path home = root.resolve(trash.relativize(thing));
            if (Files.exists(home, LinkOption.NOFOLLOW_LINKS)) {
                throw Fault.of(Fault.Kind.BAD_CHOICE, root.relativize(home).toString(),
                    "Something else lies where it was. Move that away, then take it back.").asException();
            }
        }
        for (Path thing : things) {
            Path home = root.resolve(trash.relativize(thing));
            Files.createDirectories(home.getParent());
            Files.move(thing, home, StandardCopyOption.ATOMIC_MOVE);
            Folders.sync(home.getParent());
        }
        Folders.delete(trash);
    }

    /** What was moved as one: a folder that does not exist at home, or a file. */
    private List<Path> things(Path folder) throws IOException {
        List<Path> out = new ArrayList<>();
        try (Stream<Path> entries = Files.list(folder)) {
            for (Path entry : entries.sorted().toList()) {
                Path home = root.resolve(folder(folder).relativize(entry));
                boolean goesInto = Files.isDirectory(entry, LinkOption.NOFOLLOW_LINKS) && Files.isDirectory(home, LinkOption.NOFOLLOW_LINKS)
                    && !Files.exists(entry.resolve("bagit.txt"));
                out.addAll(goesInto ? things(entry) : List.of(entry));
            }
        }
        return out;
    }

    private Path folder(Path below) {
        return folder(root.resolve(FOLDER).relativize(below).getName(0).toString());
    }

    /** Removes what a release moved, for good. Nothing happens when it is gone already. */
    public void empty(String key) throws IOException {
        Folders.delete(folder(key));
    }
}
