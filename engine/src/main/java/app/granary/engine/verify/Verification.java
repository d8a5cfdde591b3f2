package app.granary.engine.verify;

import app.granary.core.fault.FaultException;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.LostFiles;
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
 * Checks one image up to a level of proof. Every stored byte is digested once; in the same pass frames are decoded. When a digest differs,
 * the frames of the image are decoded whatever the level if they can be, to say which byte range and which partition is hit.
 */
public final class Verification {
    private final Bag bag;
    private final ProofLevel level;
    private final Watch watch;
    private final Optional<PartsRead> already;
    private final List<Problem> problems = new ArrayList<>();
    private long readBytes;

    private Verification(Bag bag, ProofLevel level, Watch watch, Optional<PartsRead> already) {
        this.bag = bag;
        this.level = level;
        this.watch = watch;
        this.already = already;
    }

    /**
     * @param bag   with its passphrase, if it has one; that is tried before anything is read, and only {@link ProofLevel#READABLE} needs it
     * @param level at most {@link ProofLevel#READABLE}; what is above is not a matter of reading
     * @throws app.granary.core.fault.FaultException when it cannot be read at all; of kind LOCKED when the passphrase is missing or wrong
     */
    public static CheckOutcome run(Bag bag, ProofLevel level, Watch watch) throws IOException {
        Optional<RemoteProof> there = RemoteProof.of(bag.folder());
        return there.isPresent() ? there.get().run(bag.folder(), bag.passphrase(), level, watch)
            : new Verification(bag, level, watch, Optional.empty()).outcome();
    }

    /**
     * Reads the parts of a bag that is being made, before it has manifests: digests what is on the destination, decodes every frame and
     * compares it with the checksum of what was read from the disk.
     *
     * @param bag     under its partial name
     * @param content what the image is to be
     */
    public static PartsRead readParts(Bag bag, ImageJson.Content content, Watch watch) throws IOException {
        Optional<RemoteProof> there = RemoteProof.of(bag.folder());
        return there.isPresent() ? there.get().readParts(bag.folder(), bag.passphrase(), content, watch)
            : decoded(bag, content, new Damage(content), watch);
    }

    /** Checks to full readability a bag that is complete but still under its partial name, and whose parts were read already. */
    public static CheckOutcome ofUnnamed(Bag bag, PartsRead already, Watch watch) throws IOException {
        return new Verification(bag, ProofLevel.READABLE, watch, Optional.of(already)).outcome();
    }

    private CheckOutcome outcome() throws IOException {
        Map<String, String> listed = new BagFiles(bag, problems).listed();
        Optional<ImageJson.Content> content = content();
        content.ifPresent(c -> missingPartsNameTheirPartitions(new Damage(c)));
        if (content.isPresent()) {
            if (level.includes(ProofLevel.READABLE) && already.isEmpty()) {
                bag.requireOpens(content.get().description());
            }
            lengths(content.get(), listed);
        }
        if (level.includes(ProofLevel.SOUND)) {
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
        List<LostFiles> lost = content.isPresent() && already.isEmpty() ? LostFilesSearch.of(bag, content.get(), problems) : List.of();
        return new CheckOutcome(level, problems, lost, readBytes);
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
            if (found < part.storedBytes()) {
                problems.add(damage.cut(part, found));
            } else if (found > part.storedBytes()) {
                problems.add(new Problem(path, part.storedBytes(), found - part.storedBytes(), "",
                    path + " is " + (found - part.storedBytes())
                        + " bytes longer than it should be (" + part.storedBytes()
                        + "). What belongs to the image is checked all the same."));
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
            problems.add(new Problem(path, 0, Files.size(file), "",
                path + " is not as it was written: its SHA-256 is " + found + " instead of " + expected + "."));
        }
    }

    private void parts(ImageJson.Content content, Map<String, String> listed) throws IOException {
        boolean decode = level.includes(ProofLevel.READABLE);
        Damage damage = new Damage(content);
        PartsRead read = already.isPresent() ? already.get() : decode ? decoded(bag, content, damage, watch) : digested(content);
        readBytes += read.readBytes();
        Map<String, String> found = read.digests();
        List<String> differing = new ArrayList<>();
        listed.forEach((path, expected) -> {
            if (damage.isPart(path) && !expected.equals(found.get(path))) {
                differing.add(path);
            }
        });
        List<Problem> placed = read.damage();
        boolean framesRead = decode;
        boolean opens = !content.description().encrypted() || !bag.passphrase().isNone();
        if (!differing.isEmpty() && !decode && opens) {
            PartsRead again = decoded(bag, content, damage, watch);
            readBytes += again.readBytes();
            placed = again.damage();
            framesRead = true;
        }
        for (Problem problem : placed) {
            boolean told = problems.stream()
                .anyMatch(p -> p.part().equals(problem.part()) && p.offsetBytes() <= problem.offsetBytes() && p.lengthBytes() > 0
                    && p.offsetBytes() + p.lengthBytes() >= problem.offsetBytes() + problem.lengthBytes()
                    || p.part().equals(problem.part()) && p.lengthBytes() == 0);
            if (!told) {
                problems.add(problem);
            }
        }
        for (String path : differing) {
            if (problems.stream().noneMatch(p -> p.part().equals(path) || damage.reaches(p, path))) {
                String why = "its SHA-256 is " + found.get(path) + " instead of " + listed.get(path);
                problems.add(framesRead ? damage.harmless(path, why) : damage.wholePart(path, why));
            }
        }
        if (decode && placed.isEmpty()) {
            TableCheck.of(bag, content).ifPresent(problems::add);
        }
    }

    private PartsRead digested(ImageJson.Content content) throws IOException {
        FrameReader.Outcome outcome = FrameReader.digests(bag, content.description(), Progress.Stage.CHECKING, watch);
        return new PartsRead(outcome.digests(), List.of(), outcome.readBytes());
    }

    private static PartsRead decoded(Bag bag, ImageJson.Content content, Damage damage, Watch watch) throws IOException {
        try (FrameReader reader = new FrameReader(bag, content, Progress.Stage.CHECKING, watch)) {
            FrameReader.Outcome outcome = reader.read(frame -> {
                if (!frame.sound()) {
                    damage.add(frame);
                }
            });
            List<Problem> problems = new ArrayList<>(damage.problems());
            outcome.faults().forEach((path, why) -> {
                if (problems.stream().noneMatch(p -> p.part().equals(path))) {
                    problems.add(damage.wholePart(path, why));
                }
            });
            return new PartsRead(outcome.digests(), problems, outcome.readBytes());
        }
    }
}
