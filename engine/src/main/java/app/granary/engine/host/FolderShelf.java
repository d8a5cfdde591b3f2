package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Bag;
import app.granary.engine.elsewhere.ElsewhereFile;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.release.Trash;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;

/** A folder of this machine, or a drive that is mounted there, as the place where images lie. */
public final class FolderShelf implements Shelf {
    private final Path root;
    private final Path own;
    private final Function<Path, List<Path>> beside;
    private final Trash trash;

    /**
     * @param root   of the destination
     * @param own    where Granary keeps its images on it
     * @param beside what lies beside an image's folder and goes with it; usually nothing
     */
    public FolderShelf(Path root, Path own, Function<Path, List<Path>> beside) {
        this.root = root;
        this.own = own;
        this.beside = beside;
        this.trash = new Trash(root);
    }

    @Override
    public void release(String key, ImageAt image) throws IOException {
        Path bag = ImageWork.bag(root, own, image);
        List<Path> things = new ArrayList<>(List.of(bag));
        things.addAll(beside.apply(bag));
        trash.put(key, things);
    }

    @Override
    public void release(String key, ElsewhereImage image) throws IOException {
        Path folder = ElsewhereScan.within(root, image.folder());
        Path real = root.toRealPath();
        List<Path> things = new ArrayList<>();
        for (ElsewhereFile file : image.files()) {
            things.add(root.resolve(real.relativize(folder)).resolve(file.name()));
        }
        trash.put(key, things);
    }

    @Override
    public void move(ImageAt from, ImageAt to) throws IOException {
        Path bag = ImageWork.bag(root, own, from);
        String name = ImageName.parse(to.name()).text();
        boolean inImage = false;
        for (Path each = at(to.folder()).normalize(); each != null && !each.equals(root); each = each.getParent()) {
            inImage |= isThere(each.resolve("bagit.txt")) || each.equals(root.resolve(Trash.FOLDER));
        }
        if (inImage) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, to.folder(), "\"" + to.folder() + "\" is an image itself, or the trash. Choose another "
                + "folder.").asException();
        }
        Path folder = to.folder().isEmpty() ? own : below(to.folder());
        Path there = folder.resolve(name);
        if (isThere(there) || isThere(folder.resolve(name + ImageName.PARTIAL))) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, there.toString(), "Something called " + name + " lies there already. Choose another "
                + "folder, or another name.").asException();
        }
        List<Path> things = beside.apply(bag);
        Files.move(bag, there, StandardCopyOption.ATOMIC_MOVE);
        for (Path each : things) {
            String own = each.getFileName().toString();
            Files.move(each, folder.resolve(name + own.substring(bag.getFileName().toString().length())), StandardCopyOption.ATOMIC_MOVE);
        }
        Folders.sync(folder);
        Folders.sync(bag.toAbsolutePath().getParent());
    }

    @Override
    public boolean lies(ImageAt image) throws IOException {
        return isThere(at(image.folder())) && isThere(ImageWork.bag(root, own, image));
    }

    @Override
    public boolean lies(ElsewhereImage image) throws IOException {
        if (!isThere(at(image.folder()))) {
            return false;
        }
        Path folder = ElsewhereScan.within(root, image.folder());
        for (ElsewhereFile file : image.files()) {
            if (!isThere(folder.resolve(file.name()))) {
                return false;
            }
        }
        return true;
    }

    private Path at(String folder) {
        return root.resolve(folder.replaceAll("^/+", ""));
    }

    private static boolean isThere(Path path) throws IOException {
        try {
            Files.readAttributes(path, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
            return true;
        } catch (NoSuchFileException notThere) {
            return false;
        }
    }

    @Override
    public List<String> images() throws IOException {
        if (!isThere(own)) {
            return List.of();
        }
        try (Stream<Path> entries = Files.list(own)) {
            return entries.filter(Bag::isBag).map(each -> each.getFileName().toString()).filter(name -> !name.endsWith(ImageName.PARTIAL))
                .sorted().toList();
        }
    }

    @Override
    public List<String> inTrash() throws IOException {
        return trash.keys();
    }

    @Override
    public boolean holds(String key) {
        return trash.holds(key);
    }

    @Override
    public void takeBack(String key) throws IOException {
        trash.takeBack(key);
    }

    @Override
    public void empty(String key) throws IOException {
        trash.empty(key);
    }

    /** Made where it is missing, one step after the other: a folder that is a link leads somewhere else, and nothing is written there. */
    private Path below(String folder) throws IOException {
        Path in = root.normalize();
        for (Path step : Path.of(folder).normalize()) {
            in = in.resolve(step.toString());
            if (step.toString().equals("..") || Path.of(folder).isAbsolute() || Files.isSymbolicLink(in)) {
                throw Fault
                    .of(Fault.Kind.FORBIDDEN, folder,
                        in.getFileName()
                            + " on that drive leads out of it, so nothing was written there. Put a folder of that name in its place.")
                    .asException();
            }
            if (!Files.isDirectory(in, LinkOption.NOFOLLOW_LINKS) && !step.toString().isEmpty()) {
                Files.createDirectory(in);
            }
        }
        return in.normalize();
    }

    @Override
    public void removeFile(String folder, String name) throws IOException {
        Path in = root.resolve(folder).normalize();
        Path file = in.resolve(name).normalize();
        if (!Files.isSymbolicLink(in) && file.startsWith(root.normalize()) && Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            Files.delete(file);
            Folders.sync(in);
        }
    }

    @Override
    public Optional<byte[]> smallFile(String folder, String name, int most) throws IOException {
        Path file = root.resolve(folder).resolve(name).normalize();
        boolean link = Files.isSymbolicLink(root.resolve(folder)) || !file.startsWith(root.normalize());
        return !link && Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS) && Files.size(file) <= most
            ? Optional.of(Files.readAllBytes(file)) : Optional.empty();
    }

    @Override
    public void putFile(String folder, String name, InputStream content) throws IOException {
        Path in = below(folder);
        Path to = in.resolve(name).normalize();
        if (!to.getParent().equals(in)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, name, "\"" + name + "\" is no name for a file.").asException();
        }
        Path partial = in.resolve(name + ".partial");
        try {
            Files.copy(content, partial, StandardCopyOption.REPLACE_EXISTING);
            try (FileChannel channel = FileChannel.open(partial, StandardOpenOption.WRITE)) {
                channel.force(true);
            }
            Files.move(partial, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(partial); // what broke off half-way is of no use to anyone
        }
        Folders.sync(in);
    }
}
