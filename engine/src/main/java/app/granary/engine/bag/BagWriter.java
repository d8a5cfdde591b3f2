package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import app.granary.engine.source.Folders;
import java.io.BufferedOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.TreeMap;

/**
 * Writes a bag under {@code NAME.partial} and gives it its name when all of it is on the device. Closing it before
 * {@link #finish} removes what was written; nothing half-made ever carries a final name.
 */
public final class BagWriter implements Closeable {
    /** Shortest part; below it the count of parts gets out of hand. */
    public static final long MIN_SPLIT = 65_536;

    private final Path folder;
    private final Path partial;
    private final PartWriter parts;
    private boolean finished;

    private BagWriter(Path folder, Path partial, PartWriter parts) {
        this.folder = folder;
        this.partial = partial;
        this.parts = parts;
    }

    /**
     * @param destination an existing folder
     * @param diskBytes   length of the disk, for the count of parts
     * @param splitBytes  longest part; empty for one part
     * @param digesting   whether the parts are digested as they are written; not needed when they are read back before {@link #complete}
     * @throws app.granary.core.fault.FaultException when the name is taken, the folder is missing or the split is too small
     */
    public static BagWriter create(Path destination, ImageName name, Codec codec, long diskBytes, OptionalLong splitBytes, boolean digesting) throws IOException {
        if (!Files.isDirectory(destination)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, destination.toString(), "There is no folder " + destination + ". Attach the drive or make the folder first.").asException();
        }
        if (splitBytes.isPresent() && splitBytes.getAsLong() < MIN_SPLIT) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, "", "Parts of " + splitBytes.getAsLong() + " bytes are too small. Use at least " + MIN_SPLIT + " bytes.").asException();
        }
        Path folder = destination.resolve(name.text());
        if (Files.exists(folder, java.nio.file.LinkOption.NOFOLLOW_LINKS)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, folder.toString(), folder + " exists already; nothing was written. Choose another name.").asException();
        }
        Path partial = destination.resolve(name.text() + ImageName.PARTIAL);
        Folders.delete(partial); // what an earlier run left was never called an image
        Files.createDirectories(partial.resolve("data"));
        long limit = splitBytes.orElse(Long.MAX_VALUE);
        long worst = Chunks.count(diskBytes) * codec.maxFrameBytes(Chunks.BYTES);
        // a part that ends early for the next frame is still more than half full, or holds one cut frame
        long maxParts = splitBytes.isEmpty() ? 1 : worst / limit * 2 + 2;
        return new BagWriter(folder, partial, new PartWriter(partial.resolve("data"), "disk.img" + codec.suffix() + ".", limit, maxParts, digesting));
    }

    /** Appends one frame of {@code length} bytes. */
    public void frame(byte[] frame, int length) throws IOException {
        parts.write(frame, length);
    }

    /** Where the bag lies while it is made. */
    public Path partial() {
        return partial;
    }

    /** Digests of the ended parts by path within the bag; empty unless asked to digest. */
    public Map<String, String> digests() {
        return parts.digests();
    }

    /** Stored bytes of frames so far. */
    public long writtenBytes() {
        return parts.writtenBytes();
    }

    /** Ends the parts; afterwards {@link #parts()} is complete. */
    public List<ImageDescription.Part> endFrames() throws IOException {
        parts.finish();
        return parts.parts();
    }

    /**
     * Writes everything but the frames, and forces it.
     *
     * @param sfdisk      the table dump, or an empty string for a disk without a table
     * @param firstSector the disk's first sector
     * @param digests     SHA-256 of every part by path within the bag
     * @return where the complete bag now lies, still under its partial name
     */
    public Path complete(ImageDescription description, FrameIndex index, String sfdisk, byte[] firstSector, Map<String, String> digests)
        throws IOException {
        Map<String, String> payload = new TreeMap<>(digests);
        try (OutputStream out = create("data/image.json")) {
            ImageJson.write(out, description, index);
        }
        payload.put("data/image.json", Digests.of(partial.resolve("data/image.json")));
        payload.put("data/disk.mbr", text("data/disk.mbr", firstSector));
        payload.put("data/disk.sfdisk", text("data/disk.sfdisk", sfdisk.getBytes(StandardCharsets.UTF_8)));
        long octets = 0;
        for (String path : payload.keySet()) {
            octets += Files.size(partial.resolve(path));
        }
        Map<String, String> tags = new LinkedHashMap<>();
        tags.put("bag-info.txt", text("bag-info.txt", BagInfo.of(description, octets, payload.size()).text().getBytes(StandardCharsets.UTF_8)));
        tags.put("bagit.txt", text("bagit.txt", Bag.BAGIT.getBytes(StandardCharsets.UTF_8)));
        tags.put(Bag.MANIFEST, text(Bag.MANIFEST, new Manifest(payload).text().getBytes(StandardCharsets.UTF_8)));
        text(Bag.TAG_MANIFEST, new Manifest(tags).text().getBytes(StandardCharsets.UTF_8));
        Folders.sync(partial.resolve("data"));
        Folders.sync(partial);
        return partial;
    }

    /** Gives the bag its name. */
    public Path finish() throws IOException {
        Files.move(partial, folder, StandardCopyOption.ATOMIC_MOVE);
        finished = true;
        Folders.sync(folder.toAbsolutePath().getParent());
        return folder;
    }

    private OutputStream create(String path) throws IOException {
        FileChannel channel = FileChannel.open(partial.resolve(path), StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        return new BufferedOutputStream(Channels.newOutputStream(channel), 1 << 16) {
            @Override
            public void close() throws IOException {
                if (channel.isOpen()) {
                    flush();
                    channel.force(true);
                    channel.close();
                }
            }
        };
    }

    private String text(String path, byte[] content) throws IOException {
        try (FileChannel channel = FileChannel.open(partial.resolve(path), StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
            ByteBuffer buffer = ByteBuffer.wrap(content);
            while (buffer.hasRemaining()) {
                channel.write(buffer);
            }
            channel.force(true);
        }
        return Digests.of(content);
    }

    @Override
    public void close() throws IOException {
        parts.close();
        if (!finished) {
            Folders.delete(partial);
        }
    }
}
