package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.Sparse;
import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FilePiece;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FileLine;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.OpenFolder;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;

/** One image that is looked into. Folders looked at last are kept, within bounds, and where somebody reads a file on. */
final class OpenInside implements Closeable {
    private static final int MOST_KEPT_NAMES = 300_000;

    private final BlockSource source;
    private final DiskFiles files;
    /** Of one in Granary's format. */
    private final Optional<Known> known;
    private final String scheme;
    private final Map<FilePlace, OpenFolder> folders = new LinkedHashMap<>(16, 0.75f, true);
    private final AtomicReference<Optional<Cursor>> cursor = new AtomicReference<>(Optional.empty());

    /** Where somebody reads on. */
    private record Cursor(FilePlace file, long at, InputStream in) {
    }

    private record Known(ImageSource image, ImageJson.Content content) {
    }

    OpenInside(Path folder, ImageAt image) throws IOException {
        Bag bag = Bag.open(folder, image.passphrase());
        Known own = new Known(ImageSource.forLooking(bag), bag.content());
        this.known = Optional.of(own);
        this.source = own.image;
        this.files = new DiskFiles(source);
        this.scheme = own.content.description().scheme();
    }

    /** @param disk of an image that other tools made; closed with this */
    OpenInside(BlockSource disk) throws IOException {
        this.known = Optional.empty();
        this.source = disk;
        this.files = new DiskFiles(disk);
        this.scheme = PartitionTables.read(disk).scheme();
    }

    BlockSource source() {
        return source;
    }

    /** Of an image that other tools made nothing is known without reading it. */
    Sparse.Stretch stretch(long atBytes) {
        return known.isPresent() ? known.get().image.stretch(atBytes) : new Sparse.Stretch(false, source.sizeBytes());
    }

    Insides.Shape shape() {
        return new Insides.Shape(source.sizeBytes(), source.sectorBytes(), scheme);
    }

    DiskFiles files() {
        return files;
    }

    OpenFolder folder(FilePlace place) throws IOException {
        synchronized (folders) {
            OpenFolder known = folders.get(place);
            if (known != null) {
                return known;
            }
        }
        OpenFolder read = new OpenFolder(files.names(place));
        synchronized (folders) {
            folders.put(place, read);
            int names = folders.values().stream().mapToInt(OpenFolder::count).sum();
            for (var oldest = folders.entrySet().iterator(); names > MOST_KEPT_NAMES && folders.size() > 1;) {
                names -= oldest.next().getValue().count();
                oldest.remove();
            }
        }
        return read;
    }

    FileFacts facts(FilePlace place) throws IOException {
        DiskFiles.Found found = files.find(place);
        List<FilePiece> pieces = found.entry().kind() == FileEntry.Kind.FILE && found.entry().unreadable().isEmpty()
            ? found.tree().pieces(found.entry()) : List.of();
        if (known.isEmpty()) { // told apart by its bytes alone
            return new FileFacts(FileLine.of("", found.entry()), 0, 0, found.entry().bytes(), 0, "elsewhere " + UUID.randomUUID());
        }
        FrameIndex index = known.get().content.index();
        FileStamp stamp = new FileStamp(known.get().image, index);
        long bad = 0;
        for (FilePiece piece : pieces) {
            stamp.add(piece);
            long end = piece.atBytes() + piece.lengthBytes();
            bad += known.get().content.description().badSectors().stream()
                .mapToLong(each -> Math.max(0, Math.min(end, each.startBytes() + each.sizeBytes())
                    - Math.max(piece.atBytes(), each.startBytes())))
                .sum();
        }
        return new FileFacts(FileLine.of("", found.entry()), stamp.chunks(), index.chunks(), stamp.storedBytes(), bad, stamp.text());
    }

    byte[] bytes(FilePlace place, long from, int most) throws IOException {
        Optional<Cursor> known = cursor.getAndSet(Optional.empty()).filter(each -> each.file.equals(place) && each.at == from);
        InputStream in = known.isPresent() ? known.get().in : opened(place, from);
        byte[] out = in.readNBytes(Math.min(most, Insides.MOST_BYTES));
        if (out.length > 0) {
            cursor.set(Optional.of(new Cursor(place, from + out.length, in)));
        }
        return out;
    }

    private InputStream opened(FilePlace place, long from) throws IOException {
        InputStream in = files.content(place);
        in.skipNBytes(from);
        return in;
    }

    @Override
    public void close() throws IOException {
        source.close();
    }
}
