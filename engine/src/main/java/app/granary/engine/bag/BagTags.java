package app.granary.engine.bag;

import app.granary.engine.source.Folders;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;

/** Everything of a bag but its frames: the description, the table, and the manifests (RFC 8493). */
final class BagTags {
    private final Path partial;

    BagTags(Path partial) {
        this.partial = partial;
    }

    /**
     * Writes all of it, and forces it.
     *
     * @param sfdisk      the table dump, or an empty string for a disk without a table
     * @param firstSector the disk's first sector
     * @param digests     SHA-256 of every part by path within the bag
     * @param comment     a person's words; an empty string for none
     */
    void write(ImageDescription description, FrameIndex index, String sfdisk, byte[] firstSector, Map<String, String> digests,
        String comment)
        throws IOException {
        Map<String, String> payload = new TreeMap<>(digests);
        for (ImageDescription.Part part : description.parts()) {
            if (!payload.containsKey("data/" + part.name())) { // carried on from an earlier try, which did not digest to its end
                payload.put("data/" + part.name(), Digests.of(partial.resolve("data").resolve(part.name())));
            }
        }
        try (OutputStream out = create("data/image.json")) {
            ImageJsonWriter.write(out, description, index);
        }
        payload.put("data/image.json", Digests.of(partial.resolve("data/image.json")));
        payload.put("data/disk.mbr", text("data/disk.mbr", firstSector));
        payload.put("data/disk.sfdisk", text("data/disk.sfdisk", sfdisk.getBytes(StandardCharsets.UTF_8)));
        long octets = 0;
        for (String path : payload.keySet()) {
            octets += Files.size(partial.resolve(path));
        }
        Map<String, String> tags = new LinkedHashMap<>();
        tags.put("bag-info.txt",
            text("bag-info.txt", BagInfo.of(description, comment, octets, payload.size()).text().getBytes(StandardCharsets.UTF_8)));
        tags.put("bagit.txt", text("bagit.txt", Bag.BAGIT.getBytes(StandardCharsets.UTF_8)));
        tags.put(Bag.MANIFEST, text(Bag.MANIFEST, new Manifest(payload).text().getBytes(StandardCharsets.UTF_8)));
        text(Bag.TAG_MANIFEST, new Manifest(tags).text().getBytes(StandardCharsets.UTF_8));
        Folders.sync(partial.resolve("data"));
        Folders.sync(partial);
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
}
