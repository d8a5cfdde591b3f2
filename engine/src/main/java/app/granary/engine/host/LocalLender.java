package app.granary.engine.host;

import app.granary.engine.remote.RemoteFiles;
import app.granary.engine.remote.ServedFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Lends folders of this machine.
 *
 * @param rawFiles that can be written onto sticks
 */
public record LocalLender(LocalFolders folders, RawFiles rawFiles) implements Lender {
    @Override
    public Loan lend(ImageAt image, Use use) throws IOException {
        LocalFolders.Folder folder = folders.folder(image.destinationId());
        Optional<ServedFolder.Gate> writing = Optional.empty();
        if (use == Use.TO_WRITE) {
            Files.createDirectories(folder.imagesPath());
            folders.requireRoom(folder);
            writing = Optional.of(() -> folders.requireRoom(folder));
        }
        String images = image.folder().isEmpty() ? folder.images() : image.folder();
        return new Served(new ServedFolder(folder.root(), images, image.name(), writing),
            folder.root().resolve(images).resolve(image.name()).toString());
    }

    @Override
    public Loan lendRaw(String rawFileId) throws IOException {
        Path file = rawFiles.named(rawFileId);
        return new Served(new ServedFolder(rawFiles.folder(), "", rawFileId, Optional.empty()), file.toString());
    }

    /** @param location where it lies, for people */
    public record Served(ServedFolder folder, String location) implements Loan {
        @Override
        public RemoteFiles files() {
            return folder;
        }

        @Override
        public String images() {
            return folder.images();
        }

        @Override
        public void close() throws IOException {
            folder.close();
        }
    }
}
