package app.granary.engine.restore;

import app.granary.core.disk.Extents;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** Images written back: what is in one, where it goes, and the work. */
public final class Restore {
    private Restore() {
    }

    /** What is in an image, page files and swap included as the zeros they are there; all of it when its table cannot be read. */
    public static DiskSurvey survey(Bag bag, ImageJson.Content content) throws IOException {
        try (ImageSource source = new ImageSource(bag, content)) {
            return DiskSurvey.of(source, new SurveyChoice(content.description().allBlocks(), true, content.description().lacking()));
        } catch (app.granary.core.fault.FaultException unreadable) {
            if (unreadable.fault().kind() == Fault.Kind.LOCKED) {
                throw unreadable;
            }
            long bytes = content.description().disk().sizeBytes();
            return new DiskSurvey(content.description().name(), bytes, content.description().sectorBytes(),
                new PartitionTable.Damaged(content.description().scheme(), unreadable.fault()), List.of(), List.of(),
                Extents.range(0, bytes), SurveyChoice.ALL_BLOCKS);
        }
    }

    /** Onto something of the disk's own size, everything where it was. */
    public static RestoreRequest asItWas(Bag bag, ImageJson.Content content, long targetBytes) throws IOException {
        DiskSurvey survey = survey(bag, content);
        return RestoreRequest.of(survey,
            RestoreLayout.of(survey, LayoutTarget.blank(targetBytes, survey.sectorBytes(), Firmware.UNKNOWN), LayoutChoice.KEEP));
    }

    /**
     * Into a new file of the disk's own size, without reading it back.
     *
     * @return that size
     */
    public static long toFile(Bag bag, Path file, Watch watch) throws IOException {
        ImageJson.Content content = bag.content();
        bag.requireOpens(content.description());
        long bytes = content.description().disk().sizeBytes();
        RestoreTarget target = RestoreTarget.file(file, bytes, content.description().sectorBytes());
        return run(bag, content, asItWas(bag, content, bytes).comparing(false), target, watch).targetBytes();
    }

    /**
     * @throws app.granary.core.fault.FaultException when the image does not fit, or is damaged: a file then never gets its final name, and
     *                                               a device is left as it was unless the damage appeared between the check and the writing
     */
    public static RestoreOutcome run(Bag bag, ImageJson.Content content, RestoreRequest request, RestoreTarget target, Watch watch)
        throws IOException {
        return run(bag, content, request, target, Overlay::over, watch);
    }

    /** @param shows how file systems that are made smaller are shown to the tools where that can be done without a scratch file */
    static RestoreOutcome run(Bag bag, ImageJson.Content content, RestoreRequest request, RestoreTarget target, Overlay.Shows shows,
        Watch watch) throws IOException {
        TargetWork.How how = new TargetWork.How(request.zeroUnused(), request.compare(), request.checkFirst(), request.acceptDamage(),
            request.log(), request.carryOn(), request.onlyChanges());
        ImageChunks image = new ImageChunks(bag, content, request.survey().toRead());
        RestoreLayout layout = request.layout();
        if (!layout.shrinks()) {
            return Growing.written(image, layout, how, target, watch);
        }
        // what is read of it only as it is written must be known to be sound before, and readable anywhere
        boolean overlaid = request.checkFirst() && !image.onwards();
        try (ImageSource source = ImageSource.forMany(bag);
            Shrinking shrunk = Shrinking.of(image, source, request.survey(), layout, request.scratch(),
                overlaid ? shows : Overlay.Shows.NOTHING, watch)) {
            return Growing.written(shrunk.chunks(image::requireSound), layout, how, target, watch);
        }
    }
}
