package app.granary.standins;

import app.granary.core.disk.Sparse;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderSearch;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageInsides;
import app.granary.engine.host.Insides;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;

/** Images on the stand-in drives, looked into: partitions are as large as the office knows them, files as large as they are. */
record SimulatedInsides(SimulatedStore store, Insides real) implements Insides {
    SimulatedInsides(SimulatedStore store) {
        this(store, new ImageInsides(store::bag, store::disk));
    }

    @Override
    public List<DiskFiles.Volume> volumes(ImageAt image) throws IOException {
        long factor = store.factor(image);
        return real.volumes(image).stream().map(each -> new DiskFiles.Volume(each.number(), each.name(), each.startBytes() * factor,
            each.sizeBytes() * factor, each.fileSystem())).toList();
    }

    @Override
    public Shape shape(ImageAt image) throws IOException {
        return real.shape(image);
    }

    @Override
    public byte[] read(ImageAt image, long fromBytes, int length) throws IOException {
        return real.read(image, fromBytes, length);
    }

    @Override
    public Sparse.Stretch stretch(ImageAt image, long atBytes) throws IOException {
        return real.stretch(image, atBytes);
    }

    @Override
    public FolderPage list(ImageAt image, FilePlace folder, FolderPage.Asked asked) throws IOException {
        return real.list(image, folder, asked);
    }

    @Override
    public FolderSearch search(ImageAt image, FilePlace below, String text, long mostMillis) throws IOException {
        return real.search(image, below, text, mostMillis);
    }

    @Override
    public FileFacts file(ImageAt image, FilePlace file) throws IOException {
        return real.file(image, file);
    }

    @Override
    public String digest(ImageAt image, FilePlace file, Watch watch) throws IOException {
        return real.digest(image, file, watch);
    }

    @Override
    public byte[] bytes(ImageAt image, FilePlace file, long from, int most) throws IOException {
        return real.bytes(image, file, from, most);
    }
}
