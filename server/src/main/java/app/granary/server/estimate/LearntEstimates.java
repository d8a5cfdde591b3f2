package app.granary.server.estimate;

import app.granary.core.estimate.Assumption;
import app.granary.core.estimate.ImageHistory;
import app.granary.core.estimate.SizeEstimate;
import app.granary.server.computer.LearntSizes;
import app.granary.server.image.Images;
import java.util.List;
import org.springframework.stereotype.Component;

/** What an image of a disk that is not at hand would weigh: from its earlier images, or from what is usual; and which of the two it was. */
@Component
public class LearntEstimates implements LearntSizes {
    private static final String CODEC = "zstd";

    private final Images images;

    LearntEstimates(Images images) {
        this.images = images;
    }

    /** The figures alone, for another codec. */
    public SizeEstimate size(String diskId, long usedBytes, long sizeBytes, String codec) {
        return size(images.pastOf(diskId, codec), usedBytes, sizeBytes, codec, false);
    }

    private static SizeEstimate size(List<ImageHistory.Past> past, long usedBytes, long sizeBytes, String codec, boolean dense) {
        return ImageHistory.estimate(past, usedBytes).orElseGet(() -> Assumption.of(codec).estimate(usedBytes, sizeBytes, dense));
    }

    @Override
    public Learnt of(String diskId, long usedBytes, long sizeBytes, boolean dense) {
        List<ImageHistory.Past> past = images.pastOf(diskId, CODEC);
        SizeEstimate size = size(past, usedBytes, sizeBytes, CODEC, dense);
        return new Learnt(size.basis().word(), size.lowBytes(), size.likelyBytes(), size.highBytes(), Workings.learnt(size, past, dense));
    }
}
