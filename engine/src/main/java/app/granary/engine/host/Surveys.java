package app.granary.engine.host;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.elsewhere.ElsewhereDisk;
import app.granary.engine.elsewhere.ElsewhereFile;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.source.RawSource;
import app.granary.engine.source.Sysfs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Surveys that were made, each kept until what it is of changes: pages ask for one at every choice a person makes. Captures and copies
 * survey anew, since they read what is there at that moment. Safe for several threads.
 */
public final class Surveys {
    private static final int MOST = 24;
    private static final String DESCRIPTION = "data/image.json";

    private final Map<Key, DiskSurvey> kept = new LinkedHashMap<>(MOST, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Key, DiskSurvey> eldest) {
            return size() > MOST;
        }
    };

    /** @param state differs when what it is of has changed */
    private record Key(String of, SurveyChoice choice, String state) {
    }

    private interface Making {
        DiskSurvey survey() throws IOException;
    }

    /**
     * Of an image, by the digest of its description.
     *
     * @throws app.granary.core.fault.FaultException of kind LOCKED when it is encrypted and the bag's passphrase does not open it
     */
    public DiskSurvey of(Bag bag, ImageJson.Content content) throws IOException {
        bag.requireOpens(content.description());
        String digest = bag.manifest(Bag.MANIFEST).digests().getOrDefault(DESCRIPTION, "");
        String state = digest.isEmpty() ? "" : digest + " " + changed(bag.folder().resolve(DESCRIPTION));
        return of(new Key(bag.folder().toString(), SurveyChoice.USED, state), () -> Restore.survey(bag, content));
    }

    /**
     * Of an image that other tools made; what is packed is unpacked for that, once.
     *
     * @param root  of its destination
     * @param watch asked while it is unpacked
     */
    public DiskSurvey of(Path root, ElsewhereImage image, Path scratch, Watch watch) throws IOException {
        StringBuilder state = new StringBuilder();
        for (ElsewhereFile each : image.files()) {
            Path file = root.resolve(image.folder()).resolve(each.name());
            state.append(Files.exists(file) ? changed(file) : "gone").append(' ');
        }
        SurveyChoice choice = OverwriteWork.choice(image);
        return of(new Key(root.resolve(image.folder()).resolve(image.name()).toString(), choice, state.toString()), () -> {
            try (ElsewhereDisk disk = ElsewhereDisk.open(root, image, scratch, watch)) {
                return DiskSurvey.of(disk, choice);
            }
        });
    }

    /** Of a device or a raw file; what cannot be read is a fault. */
    DiskSurvey of(Path disk, SurveyChoice choice) throws IOException {
        return of(new Key(disk.toString(), choice, state(disk)), () -> {
            try (RawSource source = RawSource.open(disk)) {
                return DiskSurvey.of(source, choice);
            }
        });
    }

    /** Of a disk that may have bad sectors, in which they are zeros. */
    DiskSurvey careful(Path disk, SurveyChoice choice) throws IOException {
        return of(new Key("careful " + disk, choice, state(disk)), () -> {
            try (RawSource source = RawSource.open(disk)) {
                return DiskSurvey.of(new CarefulSource(source), choice);
            }
        });
    }

    private static String state(Path disk) throws IOException {
        return Files.isRegularFile(disk) ? changed(disk) : Sysfs.state(disk);
    }

    private static String changed(Path file) throws IOException {
        return Files.size(file) + " " + Files.getLastModifiedTime(file).toInstant();
    }

    /** Outside the lock it is made, so that nobody waits for another disk; of two who ask at once both make it. */
    private DiskSurvey of(Key key, Making making) throws IOException {
        if (key.state.isEmpty()) {
            return making.survey();
        }
        synchronized (kept) {
            DiskSurvey known = kept.get(key);
            if (known != null) {
                return known;
            }
        }
        DiskSurvey made = making.survey();
        synchronized (kept) {
            kept.put(key, made);
        }
        return made;
    }
}
