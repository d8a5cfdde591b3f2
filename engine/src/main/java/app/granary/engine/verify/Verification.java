package app.granary.engine.verify;

import app.granary.core.fault.FaultException;
import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Digests;
import app.granary.engine.bag.FrameReader;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Checks one image to a depth. Every stored byte is digested once; in the same pass frames are decoded. When a digest differs, the frames
 * of the image are decoded whatever the depth, to say which byte range and which partition is hit.
 */
public final class Verification {
    private final Bag bag;
    private final CheckDepth depth;
    private final Watch watch;
    private final Optional<PartsRead> already;
    private final List<Problem> problems = new ArrayList<>();
    private long readBytes;

    private Verification(Bag bag, CheckDepth depth, Watch watch, Optional<PartsRead> already) {
        this.bag = bag;
        this.depth = depth;
        this.watch = watch;
        this.already = already;
    }

    /**
     * @throws app.granary.core.fault.FaultException when there is no image, or it cannot be read at all
     */
    public static CheckOutcome run(Path folder, CheckDepth depth, Watch watch) throws IOException {
        return new Verification(Bag.open(folder), depth, watch, Optional.empty()).outcome();
    }

    /**
     * Reads the parts of a bag that is being made, before it has manifests: digests what is on the destination, decodes every frame and
     * compares it with the checksum of what was read from the disk.
     *
     * @param folder  the bag under its partial name
     * @param content what the image is to be
     */
    public static PartsRead readParts(Path folder, ImageJson.Content content, Watch watch) throws IOException {
        return scan(new Bag(folder), content, true, new Damage(content), watch);
    }

    /** Checks to the full depth a bag that is complete but still under its partial name, and whose parts were read already. */
    public static CheckOutcome ofUnnamed(Path folder, PartsRead already, Watch watch) throws IOException {
        return new Verification(new Bag(folder), CheckDepth.FRAMES, watch, Optional.of(already)).outcome();
    }

    private CheckOutcome outcome() throws IOException {
        Map<String, String> listed = new BagFiles(bag, problems).listed();
        Optional<ImageJson.Content> content = content();
        content.ifPresent(c -> missingPartsNameTheirPartitions(new Damage(c)));
        if (content.isPresent()) {
            lengths(content.get(), listed);
        }
        if (depth.includes(CheckDepth.DIGESTS)) {
            Set<String> parts = new HashSet<>();
            if (content.isPresent()) {
                content.get().description().parts().forEach(part -> parts.add("data/" + part.name()));
            }
            for (Map.Entry<String, String> entry : listed.entrySet()) {
                if (!parts.contains(entry.getKey())) {
                    digest(entry.getKey(), entry.getValue());
                }
            }
            if (content.isPresent()) {
                parts(content.get(), listed);
            }
        }
        return new CheckOutcome(depth, problems, readBytes);
    }

    private Optional<ImageJson.Content> content() throws IOException {
        try {
            return Optional.of(bag.content());
        } catch (FaultException damaged) {
            problems.add(new Problem("data/image.json", 0, 0, "", damaged.getMessage()));
            return Optional.empty();
        }
    }

    private void missingPartsNameTheirPartitions(Damage damage) {
        problems.replaceAll(p -> p.lengthBytes() == 0 && damage.isPart(p.part()) ? damage.missing(p.part()) : p);
    }

    private void lengths(ImageJson.Content content, Map<String, String> listed) throws IOException {
        Damage damage = new Damage(content);
        for (ImageDescription.Part part : content.description().parts()) {
            String path = "data/" + part.name();
            if (!listed.containsKey(path)) {
                if (problems.stream().noneMatch(p -> p.part().equals(path))) {
                    problems.add(damage.missing(path));
                }
                continue;
            }
            long found = Files.size(bag.folder().resolve(path));
            if (found < part.bytes()) {
                problems.add(damage.cut(part, found));
            } else if (found > part.bytes()) {
                problems.add(new Problem(path, part.bytes(), found - part.bytes(), "", path + " is " + (found - part.bytes())
                    + " bytes longer than it should be (" + part.bytes() + "). What belongs to the image is checked all the same."));
            }
        }
    }

    private void digest(String path, String expected) throws IOException {
        watch.requireGoingOn(path);
        Path file = bag.folder().resolve(path);
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        String found = Digests.of(file);
        readBytes += Files.size(file);
        if (!found.equals(expected)) {
            problems.add(new Problem(path, 0, Files.size(file), "", path + " is not as it was written: its SHA-256 is " + found + " instead of " + expected + "."));
        }
    }

    private void parts(ImageJson.Content content, Map<String, String> listed) throws IOException {
        boolean decode = depth.includes(CheckDepth.FRAMES);
        Damage damage = new Damage(content);
        PartsRead read = already.isPresent() ? already.get() : scan(bag, content, decode, damage, watch);
        readBytes += read.readBytes();
        Map<String, String> found = read.digests();
        List<String> differing = new ArrayList<>();
        listed.forEach((path, expected) -> {
            if (damage.isPart(path) && !expected.equals(found.get(path))) {
                differing.add(path);
            }
        });
        List<Problem> placed = read.damage();
        if (!differing.isEmpty() && !decode) {
            PartsRead again = scan(bag, content, true, damage, watch);
            readBytes += again.readBytes();
            placed = again.damage();
        }
        for (Problem problem : placed) {
            boolean told = problems.stream().anyMatch(p -> p.part().equals(problem.part()) && p.offsetBytes() <= problem.offsetBytes() && p.lengthBytes() > 0
                && p.offsetBytes() + p.lengthBytes() >= problem.offsetBytes() + problem.lengthBytes() || p.part().equals(problem.part()) && p.lengthBytes() == 0);
            if (!told) {
                problems.add(problem);
            }
        }
        for (String path : differing) {
            if (problems.stream().noneMatch(p -> p.part().equals(path))) {
                problems.add(damage.wholePart(path, "its SHA-256 is " + found.get(path) + " instead of " + listed.get(path)));
            }
        }
        if (decode && placed.isEmpty()) {
            TableCheck.of(bag.folder(), content).ifPresent(problems::add);
        }
    }

    private static PartsRead scan(Bag bag, ImageJson.Content content, boolean decode, Damage damage, Watch watch) throws IOException {
        try (FrameReader reader = new FrameReader(bag.folder(), content, Progress.Stage.CHECKING, watch)) {
            FrameReader.Outcome outcome = reader.read(decode, frame -> {
                if (!frame.sound()) {
                    damage.add(frame);
                }
            });
            return new PartsRead(outcome.digests(), damage.problems(), outcome.readBytes());
        }
    }
}
