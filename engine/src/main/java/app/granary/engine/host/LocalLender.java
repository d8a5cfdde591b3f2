package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.engine.remote.RemoteFiles;
import app.granary.engine.remote.ServedFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Lends folders of this machine.
 *
 * @param rawFiles the folder of files that can be written onto sticks; it need not be there
 */
public record LocalLender(LocalFolders folders, Path rawFiles) implements Lender {
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
        Path file = named(rawFileId).orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, rawFileId, "There is no file " + rawFileId
            + " in " + rawFiles + " any more. Put it there again.").asException());
        return new Served(new ServedFolder(rawFiles, "", rawFileId, Optional.empty()), file.toString());
    }

    /** By what lies there, so that no name becomes a path. */
    private Optional<Path> named(String name) throws IOException {
        if (!Files.isDirectory(rawFiles)) {
            return Optional.empty();
        }
        try (Stream<Path> all = Files.list(rawFiles)) {
            return all.filter(each -> each.getFileName().toString().equals(name) && Files.isRegularFile(each)).findFirst();
        }
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
