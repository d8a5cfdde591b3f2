package app.granary.server.image;

import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageStore;
import java.io.IOException;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Reads of images that were recorded before Granary kept what they lack, as their drives come by. */
@Component
class LacksLearnt {
    private static final Logger LOG = LoggerFactory.getLogger(LacksLearnt.class);
    private static final long EVERY_MILLIS = 300_000;
    private static final long FIRST_MILLIS = 20_000;

    private final CopyRepository copies;
    private final Images known;
    private final ImageRecords records;
    private final ImageStore store;

    LacksLearnt(CopyRepository copies, Images known, ImageRecords records, ImageStore store) {
        this.copies = copies;
        this.known = known;
        this.records = records;
        this.store = store;
    }

    @Scheduled(initialDelay = FIRST_MILLIS, fixedDelay = EVERY_MILLIS)
    void learn() throws IOException {
        List<Copy> untold = copies.untold();
        if (untold.isEmpty()) {
            return;
        }
        List<String> attached = store.destinations().stream().filter(each -> each.attached()).map(each -> each.id()).toList();
        for (Copy copy : untold) {
            if (Images.format(copy.image()) == Images.Format.GRANARY && attached.contains(copy.destinationId())) {
                learn(copy);
            }
        }
    }

    private void learn(Copy copy) {
        try {
            records.lacks(copy.id(), store.facts(known.at(copy.id(), Passphrase.NONE)).lacks());
        } catch (IOException | RuntimeException unreadable) {
            LOG.debug("what {} lacks cannot be read now", copy.image().name(), unreadable);
        }
    }
}
