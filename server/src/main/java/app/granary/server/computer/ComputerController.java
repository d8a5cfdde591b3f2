package app.granary.server.computer;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.Images;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Computers, their disks, and what lies on each. */
@RestController
@RequestMapping("/api/v1/computers")
class ComputerController {
    private final Site site;
    private final Prospects prospects;
    private final Images images;

    ComputerController(Site site, Prospects prospects, Images images) {
        this.site = site;
        this.prospects = prospects;
        this.images = images;
    }

    /** @param lastImageAt when the newest image of one of its disks was made; null when there is none */
    record Computer(String id, String name, String role, String owner, @Schema(types = {"string", "null"}) Instant lastImageAt, boolean lastImageSound, List<Disk> disks) {
    }

    /** @param refusal why the disk cannot be read, or an empty string; then there are no partitions */
    record Disk(String id, String name, String model, String serial, long sizeBytes, String bus, int sectorBytes, String scheme, long usedBytes,
                List<Partition> partitions, String refusal) {
    }

    /**
     * @param usedBytes   null when the file system does not tell
     * @param toReadBytes what a capture reads of it
     * @param container   an extended partition, drawn as the frame of the logical ones
     */
    record Partition(int number, long startBytes, long sizeBytes, String type, String name, String fileSystem, @Schema(types = {"integer", "null"}) Long usedBytes, @Schema(types = {"integer", "null"}) Long freeBytes, long toReadBytes,
                     boolean hidden, boolean readWhole, boolean container, String reason) {
        static Partition from(SurveyedPartition each) {
            return new Partition(each.partition().number(), each.partition().startBytes(), each.partition().sizeBytes(), each.partition().type().name(),
                each.partition().name(), each.fileSystem().kind(), Working.orNull(each.fileSystem().usedBytes()), Working.orNull(each.fileSystem().freeBytes()),
                each.toRead().totalBytes(), each.partition().type().hidden(), each.readWhole(), each.partition().container(), each.reason());
        }
    }

    @GetMapping
    List<Computer> computers() throws IOException {
        List<Computer> out = new ArrayList<>();
        for (SiteComputer computer : site.computers()) {
            List<Disk> disks = new ArrayList<>();
            for (SiteDisk disk : computer.disks()) {
                disks.add(disk(disk));
            }
            Optional<Images.Newest> newest = images.newestOf(computer.name());
            out.add(new Computer(computer.id(), computer.name(), computer.role(), computer.owner(), newest.map(Images.Newest::madeAt).orElse(null),
                newest.map(Images.Newest::sound).orElse(false), disks));
        }
        return out;
    }

    @GetMapping("/disks/{id}")
    Disk one(@PathVariable String id) throws IOException {
        return disk(prospects.source(id).disk());
    }

    private Disk disk(SiteDisk disk) {
        try {
            DiskSurvey survey = site.survey(disk.id(), false);
            return new Disk(disk.id(), disk.name(), disk.identity().model(), disk.identity().serial(), disk.identity().sizeBytes(), disk.bus(), survey.sectorBytes(),
                survey.table().scheme(), survey.usedBytes(), survey.partitions().stream().map(Partition::from).toList(), "");
        } catch (IOException refused) {
            return new Disk(disk.id(), disk.name(), disk.identity().model(), disk.identity().serial(), disk.identity().sizeBytes(), disk.bus(), 512, "none",
                0, List.of(), refused.getMessage());
        }
    }
}
