package app.granary.engine.hosts;

import app.granary.core.disk.Sparse;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderSearch;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Insides;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;

/** An image is looked into on the machine that has its drive. */
record ManyInsides(Whereabouts whereabouts) implements Insides {
    private Insides of(ImageAt image) throws IOException {
        return whereabouts.ofDestination(image.destinationId()).host().insides();
    }

    @Override
    public Shape shape(ImageAt image) throws IOException {
        return of(image).shape(image);
    }

    @Override
    public byte[] read(ImageAt image, long fromBytes, int length) throws IOException {
        return of(image).read(image, fromBytes, length);
    }

    @Override
    public Sparse.Stretch stretch(ImageAt image, long atBytes) throws IOException {
        return of(image).stretch(image, atBytes);
    }

    @Override
    public List<DiskFiles.Volume> volumes(ImageAt image) throws IOException {
        return of(image).volumes(image);
    }

    @Override
    public FolderPage list(ImageAt image, FilePlace folder, FolderPage.Asked asked) throws IOException {
        return of(image).list(image, folder, asked);
    }

    @Override
    public FolderSearch search(ImageAt image, FilePlace below, String text, long mostMillis) throws IOException {
        return of(image).search(image, below, text, mostMillis);
    }

    @Override
    public FileFacts file(ImageAt image, FilePlace file) throws IOException {
        return of(image).file(image, file);
    }

    @Override
    public String digest(ImageAt image, FilePlace file, Watch watch) throws IOException {
        return of(image).digest(image, file, watch);
    }

    @Override
    public byte[] bytes(ImageAt image, FilePlace file, long from, int most) throws IOException {
        return of(image).bytes(image, file, from, most);
    }
}
