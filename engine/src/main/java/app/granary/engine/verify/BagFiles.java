package app.granary.engine.verify;

import app.granary.core.fault.FaultException;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Manifest;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;

/** The files of a bag against its two manifests: nothing missing, nothing extra, nothing that should be listed and is not. */
final class BagFiles {
    private static final Set<String> TAGS = Set.of("bag-info.txt", "bagit.txt", Bag.MANIFEST);
    private static final Set<String> PAYLOAD = Set.of("data/image.json", "data/disk.mbr", "data/disk.sfdisk");

    private final Bag bag;
    private final List<Problem> problems;

    BagFiles(Bag bag, List<Problem> problems) {
        this.bag = bag;
        this.problems = problems;
    }

    /** Everything the manifests list that is there, path to digest; problems are added for the rest. */
    Map<String, String> listed() throws IOException {
        Map<String, String> listed = new TreeMap<>();
        boolean whole = read(Bag.TAG_MANIFEST, TAGS, listed) & read(Bag.MANIFEST, PAYLOAD, listed);
        Set<String> found = found();
        for (String path : listed.keySet()) {
            if (!found.contains(path)) {
                problems.add(new Problem(path, 0, 0, "", path + " is missing."));
            }
        }
        for (String path : found) {
            if (whole && !listed.containsKey(path) && !path.equals(Bag.TAG_MANIFEST)) {
                problems.add(new Problem(path, 0, length(path), "",
                    path + " does not belong to this image: no manifest lists it. Move it elsewhere."));
            }
        }
        listed.keySet().retainAll(found);
        return listed;
    }

    private boolean read(String name, Set<String> required, Map<String, String> into) throws IOException {
        try {
            Manifest manifest = bag.manifest(name);
            into.putAll(manifest.digests());
            for (String path : required) {
                if (!manifest.digests().containsKey(path)) {
                    problems.add(new Problem(name, 0, length(name), "", name + " does not list " + path + "."));
                }
            }
            return true;
        } catch (FaultException damaged) {
            problems.add(new Problem(name, 0, length(name), "", damaged.getMessage()));
            return false;
        }
    }

    private long length(String path) throws IOException {
        Path file = bag.folder().resolve(path);
        return Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS) ? Files.size(file) : 0;
    }

    /** All regular files, as paths with {@code /}; a link or a strange entry counts as a file that no manifest lists. */
    private Set<String> found() throws IOException {
        Set<String> found = new TreeSet<>();
        try (Stream<Path> walk = Files.walk(bag.folder())) {
            for (Path path : (Iterable<Path>) walk::iterator) {
                if (!Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
                    found.add(bag.folder().relativize(path).toString().replace('\\', '/'));
                }
            }
        }
        return found;
    }
}
