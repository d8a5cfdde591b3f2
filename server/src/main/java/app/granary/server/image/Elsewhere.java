package app.granary.server.image;

import app.granary.core.disk.Partition;
import app.granary.core.image.DiskInside;
import app.granary.core.image.Lacks;
import app.granary.core.image.Owner;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereFile;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.host.Shelf;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.host.ImageStore;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.computer.DisksOnRecord.DiskOnRecord;
import app.granary.server.problem.Refused;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Images made elsewhere: found in a folder and taken on, or only written down. */
@Service
public class Elsewhere {
    private static final String TAKEN = "taken by Granary";

    private final ImageStore store;
    private final Images images;
    private final CopyRepository repository;
    private final ImageFileRepository files;
    private final DisksOnRecord disks;
    private final ObjectMapper json;
    private final Clock clock;

    Elsewhere(ImageStore store, Images images, CopyRepository repository, ImageFileRepository files, DisksOnRecord disks, ObjectMapper json,
        Clock clock) {
        this.store = store;
        this.images = images;
        this.repository = repository;
        this.files = files;
        this.disks = disks;
        this.json = json;
        this.clock = clock;
    }

    /**
     * An image found, and whose it is.
     *
     * @param onShelf whether it is known already
     * @param owner   the disk it is of, where that can be told
     */
    record FoundImage(ElsewhereImage image, boolean onShelf, Optional<Owner> owner) {
    }

    /** @param all whether everything there was looked at */
    record Found(List<FoundImage> images, boolean all) {
    }

    @Transactional(readOnly = true)
    public Found look(String destinationId, String folder) throws IOException {
        ElsewhereScan.Found found = store.elsewhere(destinationId, folder, Watch.NONE);
        List<Owner.Candidate> candidates = disks.candidates();
        return new Found(found.images().stream()
            .map(image -> new FoundImage(image, isOnShelf(destinationId, image), Owner.of(image.inside(), image.name(), candidates)))
            .toList(), found.all());
    }

    private boolean isOnShelf(String destinationId, ElsewhereImage image) {
        return repository.isTaken(destinationId, image.folder(), image.name());
    }

    /** What a person says of one that was found: where, of which disk, and from when. */
    record Taking(String destinationId, String lookedIn, String folder, String name, String diskId, Instant madeAt) {
    }

    /** Takes one on as it lies there now. */
    @Transactional
    public UUID add(Taking taking, String who) throws IOException {
        return add(taking, found(taking), who);
    }

    /** Takes a file on of which nothing is known but its length; its digest is taken by the first check. */
    @Transactional
    public UUID keep(Taking taking, String who) throws IOException {
        return add(taking, store.kept(taking.destinationId, taking.folder, taking.name), who);
    }

    private ElsewhereImage found(Taking taking) throws IOException {
        return store.elsewhere(taking.destinationId, taking.lookedIn, Watch.NONE).images().stream()
            .filter(each -> each.folder().equals(taking.folder)
                && each.name().equals(taking.name))
            .findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "gone", "name", taking.name + " does not lie there any more. Look again."));
    }

    private UUID add(Taking taking, ElsewhereImage image, String who) throws IOException {
        if (!image.trouble().isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "bad-choice", "name", image.trouble());
        }
        if (isOnShelf(taking.destinationId, image)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name", image.name() + " is on the shelf already. Open it under Images.");
        }
        DiskOnRecord disk = disk(taking.diskId);
        boolean granarys = image.kind() == ElsewhereImage.Kind.GRANARY;
        Image found = Image.found(Image.Origin.FOUND, image.name(),
            new Images.Of(disk.computer(), disk.id(), disk.name(), disk.identity().serial()), notLater(taking.madeAt), who);
        Copy taken = Copy.first(found, taking.destinationId, images.destinationName(taking.destinationId)).lying(image.folder());
        if (granarys) {
            taken.sized(store.facts(new ImageAt(taking.destinationId, image.folder(), image.name(), Passphrase.NONE)));
        } else {
            found.sized(image.inside().sizeBytes().orElse(0), 0, false)
                .estimated(image.storedBytes(), image.storedBytes(), image.storedBytes())
                .holding(image.kind(), written(image.inside()), image.contentDigest())
                .lacking(lacks(image, disk));
            taken.storing(image.storedBytes()).joining(image.joinedDigest());
        }
        repository.save(taken);
        for (int place = 0; place < image.files().size() && !granarys; place++) {
            files.save(new ImageFile(taken.id(), place, image.files().get(place)));
        }
        return taken.id();
    }

    private static Lacks lacks(ElsewhereImage image, DiskOnRecord disk) {
        return switch (image.kind()) {
            case KEPT -> Lacks.UNTOLD;
            case SET -> new Lacks(image.lacking().stream().map(Partition::label).toList());
            default -> Lacks.of(image.inside(), disk.scheme(), disk.identity().sizeBytes());
        };
    }

    /** What a paper log tells. */
    record PaperLine(String diskId, String name, String where, Instant madeAt, long storedBytes, String note) {
    }

    @Transactional
    public UUID addPaper(PaperLine line, String who) {
        DiskOnRecord disk = disk(line.diskId);
        if (repository.isTaken("", line.where, line.name)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name", "A line for " + line.name + " at " + line.where
                + " is there already. Open it under Images, or give this one another name.");
        }
        Image image = Image
            .found(Image.Origin.PAPER, line.name, new Images.Of(disk.computer(), disk.id(), disk.name(), disk.identity().serial()),
                notLater(line.madeAt), who)
            .estimated(line.storedBytes, line.storedBytes, line.storedBytes);
        image.comment(line.note);
        return repository.save(Copy.first(image, "", line.where).storing(line.storedBytes).lying(line.where)).id();
    }

    private DiskOnRecord disk(String diskId) {
        return disks.find(diskId)
            .orElseThrow(() -> new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "bad-choice", "diskId",
                "Choose the disk it is an image of. One that is not in the office any more is "
                    + "added by hand first, under Computers."));
    }

    private Instant notLater(Instant madeAt) {
        if (madeAt.isAfter(clock.instant())) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "bad-choice", "madeAt",
                "That day is still to come. Give the day the image was made.");
        }
        return madeAt;
    }

    /** As it is to be, for a check; empty for an image of Granary's format. */
    @Transactional(readOnly = true)
    public Optional<ElsewhereImage> expected(UUID id) {
        Copy copy = images.one(id);
        Image image = copy.image();
        if (image.inside().isEmpty()) {
            return Optional.empty();
        }
        List<ElsewhereFile> known = files.findByCopyIdOrderByPlace(id).stream().map(ImageFile::file).toList();
        return Optional.of(new ElsewhereImage(copy.folder(), image.name(), image.kind(), known, copy.joinedDigest(),
            image.contentDigest(), inside(image), image.madeAt(), ""));
    }

    /**
     * Whether an image is where it is to be, whoever made it.
     *
     * @throws IOException when that cannot be told now
     */
    @Transactional(readOnly = true)
    public boolean lies(Shelf shelf, UUID id) throws IOException {
        Optional<ElsewhereImage> other = expected(id);
        return other.isPresent() ? shelf.lies(other.get()) : shelf.lies(images.at(id, Passphrase.NONE));
    }

    /** What of its disk an image does not hold. */
    @Transactional(readOnly = true)
    public Lacks lacks(UUID id) {
        return images.one(id).image().lacks();
    }

    /** Keeps what a check found out that nobody had said. */
    @Transactional
    public void learn(UUID id, ElsewhereCheck.Result result) {
        if (!result.outcome().ok()) {
            return;
        }
        for (ImageFile file : files.findByCopyIdOrderByPlace(id)) {
            Optional.ofNullable(result.digests().get(file.file().name())).ifPresent(digest -> {
                file.learn(digest, TAKEN);
                files.save(file);
            });
        }
        Copy copy = images.one(id);
        Image image = copy.image();
        result.contentBytes().ifPresent(bytes -> {
            image.unpacksTo(bytes);
            DiskInside told = inside(image);
            DiskInside whole = new DiskInside(OptionalLong.of(bytes), told.scheme(), told.tableId(), told.partitions(), told.serial(),
                told.remark());
            disks.find(image.diskId()).filter(disk -> image.kind() == ElsewhereImage.Kind.RAW)
                .ifPresent(disk -> image.lacking(Lacks.of(whole, disk.scheme(), disk.identity().sizeBytes())));
        });
        repository.save(copy);
    }

    /** What an image made elsewhere was found to be, in the words of one of Granary's own. */
    @Transactional(readOnly = true)
    public ImageFacts facts(UUID id) {
        Image image = images.one(id).image();
        DiskInside inside = inside(image);
        List<ImageFacts.Stretch> partitions = inside.partitions().stream().filter(p -> !p.container())
            .map(p -> new ImageFacts.Stretch(p.number(), p.startBytes(), p.sizeBytes(), p.sizeBytes(),
                p.label(), p.type().name(), image.rawBytes() == 0 || p.endBytes() <= image.rawBytes(), List.of()))
            .toList();
        List<ImageFacts.File> parts = new ArrayList<>();
        files.findByCopyIdOrderByPlace(id).stream().map(ImageFile::file)
            .forEach(f -> parts.add(new ImageFacts.File(f.name(), f.bytes(), f.digest())));
        return new ImageFacts(Math.max(image.rawBytes(), inside.endBytes()), false, image.lacks(), partitions, List.of(), parts);
    }

    private String written(DiskInside inside) {
        try {
            return json.writeValueAsString(inside);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    private DiskInside inside(Image image) {
        try {
            return json.readValue(image.inside(), DiskInside.class);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
