package app.granary.server.served;

import app.granary.core.disk.BlockSource;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.InsideDisk;
import app.granary.engine.host.Insides;
import app.granary.engine.nbd.NbdServer;
import app.granary.engine.restore.VirtualComputer;
import app.granary.server.home.GranarySettings;
import app.granary.server.image.Images;
import app.granary.server.inside.Looks;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Those that are served now. They end when a person ends them, or when Granary does; nothing of an image is ever changed. */
@Service
public class ServedImages {
    private static final Logger LOG = LoggerFactory.getLogger(ServedImages.class);
    private static final int MOST = 4;

    private final Looks looks;
    private final Insides insides;
    private final Journal journal;
    private final Clock clock;
    private final Path folders;
    private final Map<UUID, Served> served = new ConcurrentHashMap<>();
    /** How often a computer's disk is being read now. */
    private final Map<UUID, Integer> read = new ConcurrentHashMap<>();

    ServedImages(Looks looks, Insides insides, Journal journal, Clock clock, GranarySettings settings) {
        this.looks = looks;
        this.insides = insides;
        this.journal = journal;
        this.clock = clock;
        this.folders = settings.home().resolve("served");
    }

    /** What a kill left: nobody knows of it any more. */
    @PostConstruct
    void sweep() throws IOException {
        if (Files.isDirectory(folders)) {
            try (Stream<Path> left = Files.list(folders)) {
                for (Path each : left.toList()) {
                    VirtualComputer.sweep(each);
                }
            }
        }
    }

    /**
     * One of them.
     *
     * @param at       as it was opened
     * @param address  where it is had, on the machine Granary runs on
     * @param computer empty for one that is read as a disk
     */
    public record Served(UUID id, UUID imageId, Images.Shelved image, ImageAt at, String address, Optional<VirtualComputer> computer,
        Closeable end,
        Instant since, String by) {
    }

    /** The oldest first. */
    List<Served> all() {
        return served.values().stream().sorted(Comparator.comparing(Served::since)).toList();
    }

    /** Read as a disk, by the NBD protocol. */
    synchronized Served asDisk(UUID imageId, String account) throws IOException {
        Images.Shelved image = admitted(imageId);
        ImageAt at = looks.at(imageId, account);
        NbdServer server = NbdServer.onLoopback(0, new InsideDisk(insides, at), image.name());
        return begun(new Served(UUID.randomUUID(), imageId, image, at, server.uri(), Optional.empty(), server, clock.instant(), account),
            "serves image " + image.name() + " as a disk that is only read, at " + server.uri());
    }

    /** @param memoryMib that the computer has */
    synchronized Served asComputer(UUID imageId, int memoryMib, String account) throws IOException {
        Images.Shelved image = admitted(imageId);
        ImageAt at = looks.at(imageId, account);
        InsideDisk disk = new InsideDisk(insides, at);
        UUID id = UUID.randomUUID();
        VirtualComputer computer = VirtualComputer.start(disk, disk.uefi(), memoryMib, folders.resolve("" + id));
        return begun(new Served(id, imageId, image, at, "127.0.0.1:" + computer.port(), Optional.of(computer), computer, clock.instant(),
            account), "starts image " + image.name() + " as a virtual computer; its screen is at 127.0.0.1:" + computer.port());
    }

    private Images.Shelved admitted(UUID imageId) {
        Images.Shelved image = looks.own(imageId);
        if (served.size() >= MOST) {
            throw new Refused(HttpStatus.CONFLICT, "too-many", "", MOST + " images are served already. End one of them first.");
        }
        return image;
    }

    private Served begun(Served one, String did) {
        served.put(one.id, one);
        tell(one, Journal.Result.BEGUN, one.by + " " + did + ".", one.by);
        return one;
    }

    private Served one(UUID id) {
        return Optional.ofNullable(served.get(id)).orElseThrow(() -> Refused.notFound("served image"));
    }

    /** A computer that was started; refused when it was ended since. */
    public Served computer(UUID id) {
        return Optional.ofNullable(served.get(id)).filter(each -> each.computer.isPresent()).orElseThrow(() -> new Refused(
            HttpStatus.CONFLICT, "gone", "servedId", "That virtual computer was ended, and what it wrote is gone. Restore the image."));
    }

    /** The disk of a computer that is switched off; while it is read, it cannot be ended. */
    public BlockSource changed(UUID id) throws IOException {
        Served one = computer(id);
        BlockSource disk = one.computer.orElseThrow().changed();
        read.merge(id, 1, Integer::sum);
        return new ReadDisk(disk, () -> read.computeIfPresent(id, (key, count) -> count == 1 ? null : count - 1));
    }

    void pressSwitch(UUID id) throws IOException {
        one(id).computer.orElseThrow(() -> Refused.notFound("virtual computer")).pressSwitch();
    }

    void end(UUID id, String account) throws IOException {
        Served one = one(id);
        if (read.containsKey(id)) {
            throw new Refused(HttpStatus.CONFLICT, "in-use", "", "Its disk is being read, to be written onto another. Wait until that has "
                + "ended.");
        }
        if (served.remove(id, one)) {
            one.end.close();
            tell(one, Journal.Result.DONE, account + " ended " + (one.computer.isPresent() ? "the virtual computer of image "
                : "serving image ") + one.image.name() + (one.computer.isPresent() ? "; what it wrote was thrown away." : "."), account);
        }
    }

    private void tell(Served one, Journal.Result result, String sentence, String account) {
        journal.add(account, "serve", one.image.computer() + " " + one.image.disk(), result, sentence,
            Journal.Facts.of(List.of(one.image.serial()), Map.of(), "/images/" + one.imageId));
    }

    @PreDestroy
    void endAll() {
        for (Served each : all()) {
            try {
                each.end.close();
            } catch (IOException failed) {
                LOG.warn("{} could not be ended: {}", each.address, failed.getMessage());
            }
        }
    }
}
