package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.stream.Stream;

/**
 * A finished bag, opened for reading.
 *
 * @param folder where it lies
 */
public record Bag(Path folder) {
    public static final String MANIFEST = "manifest-sha256.txt";
    public static final String TAG_MANIFEST = "tagmanifest-sha256.txt";
    static final String BAGIT = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";
    /** No manifest of ours comes near this; a longer file is refused unread. */
    private static final long MAX_TAG_FILE = 16L << 20;
    private static final long MAX_DESCRIPTION = 1L << 30;

    /** @throws app.granary.core.fault.FaultException when nothing in the folder looks like a bag */
    public static Bag open(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(), "There is no image folder " + folder + ". Check the path; its drive may not be attached.").asException();
        }
        if (folder.getFileName() != null && folder.getFileName().toString().endsWith(ImageName.PARTIAL)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(), folder + " is an unfinished capture, not an image. Capture the disk again.").asException();
        }
        boolean any = Stream.of("bagit.txt", MANIFEST, TAG_MANIFEST, "data/image.json").anyMatch(name -> Files.exists(folder.resolve(name)));
        if (!any) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(), folder + " is no image: it holds neither bagit.txt nor a manifest. Name the image's own folder.").asException();
        }
        return new Bag(folder);
    }

    /** The description and frame index. */
    public ImageJson.Content content() throws IOException {
        Path file = folder.resolve("data/image.json");
        requireLength(file, MAX_DESCRIPTION);
        try (InputStream in = Files.newInputStream(file, LinkOption.NOFOLLOW_LINKS)) {
            return ImageJson.read(in, "data/image.json");
        }
    }

    public Manifest manifest(String name) throws IOException {
        return Manifest.parse(tagFile(name), name);
    }

    /** A tag file's text, one character a byte, so that a changed bit cannot hide in the decoding. */
    public String tagFile(String name) throws IOException {
        Path file = folder.resolve(name);
        requireLength(file, MAX_TAG_FILE);
        return Files.readString(file, StandardCharsets.ISO_8859_1);
    }

    private static void requireLength(Path file, long most) throws IOException {
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            throw Fault.of(Fault.Kind.DAMAGED, file.toString(), file.getFileName() + " is missing.").asException();
        }
        if (Files.size(file) > most) {
            throw Fault.of(Fault.Kind.DAMAGED, file.toString(), file.getFileName() + " is longer than " + most + " bytes, which no image needs.").asException();
        }
    }
}
