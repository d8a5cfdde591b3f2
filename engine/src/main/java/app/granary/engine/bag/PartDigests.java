package app.granary.engine.bag;

import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.OrderedWork;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;

/** Digests the parts of an image as files, several at once: a digest of one file cannot be shared among processors. */
final class PartDigests {
    private PartDigests() {
    }

    static FrameReader.Outcome of(Path data, ImageDescription description, Progress.Stage stage, Watch watch) throws IOException {
        long total = description.parts().stream().mapToLong(ImageDescription.Part::storedBytes).sum();
        AtomicLong done = new AtomicLong();
        Map<String, String> digests = new HashMap<>();
        Map<String, String> faults = new LinkedHashMap<>();
        Watch pieces = new Watch() {
            @Override
            public void advanced(Progress progress) {
            }

            @Override
            public boolean stopRequested() {
                return watch.stopRequested();
            }

            @Override
            public void requireGoingOn(String what) throws IOException {
                watch.requireGoingOn(what);
                long now = done.addAndGet(PartStream.DRAIN);
                watch.advanced(new Progress(stage, Math.min(now, total), total, total));
            }
        };
        try (OrderedWork<PartStream> work = new OrderedWork<>("granary-digests")) {
            for (ImageDescription.Part part : description.parts()) {
                if (work.underWay() == work.slots()) {
                    take(work, digests, faults);
                }
                work.submit(() -> {
                    try (PartStream stream = new PartStream(data, List.of(part), Passphrase.NONE, pieces)) {
                        stream.finish();
                        return stream;
                    }
                });
            }
            while (work.underWay() > 0) {
                take(work, digests, faults);
            }
        }
        return new FrameReader.Outcome(digests, faults, Math.min(done.get(), total));
    }

    private static void take(OrderedWork<PartStream> work, Map<String, String> digests, Map<String, String> faults) throws IOException {
        PartStream stream = work.takeOldest();
        digests.putAll(stream.digests());
        faults.putAll(stream.faults());
    }
}
