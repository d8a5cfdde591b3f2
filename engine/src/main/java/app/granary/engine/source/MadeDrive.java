package app.granary.engine.source;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;

/** A drive that does not exist yet, put together of pieces; what lies between them reads as zeros. What is laid later lies on top. */
public final class MadeDrive implements BlockSource {
    private final String name;
    private final long sizeBytes;
    private final int sectorBytes;
    private final List<Piece> pieces = new ArrayList<>();

    private record Piece(long at, BlockSource content, Extents used) {
    }

    public MadeDrive(String name, long sizeBytes, int sectorBytes) {
        this.name = name;
        this.sizeBytes = sizeBytes;
        this.sectorBytes = sectorBytes;
    }

    public void lay(long at, byte[] content) {
        lay(at, new BlockSource() {
            @Override
            public String name() {
                return name;
            }

            @Override
            public long sizeBytes() {
                return content.length;
            }

            @Override
            public int sectorBytes() {
                return sectorBytes;
            }

            @Override
            public void read(long offsetBytes, ByteBuffer into) {
                into.put(content, (int) offsetBytes, into.remaining());
            }
        }, Extents.range(0, content.length));
    }

    /** @param content closed with the drive */
    public void lay(long at, BlockSource content, Extents used) {
        pieces.add(new Piece(at, content, used));
    }

    /** All that was laid. */
    public Extents used() {
        Extents out = Extents.NONE;
        for (Piece piece : pieces) {
            out = out.union(piece.used.shift(piece.at));
        }
        return out;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public long sizeBytes() {
        return sizeBytes;
    }

    @Override
    public int sectorBytes() {
        return sectorBytes;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        int start = into.position();
        long end = offsetBytes + into.remaining();
        into.put(start, new byte[into.remaining()]);
        for (Piece piece : pieces) {
            Extents used = piece.used;
            for (int i = used.firstEndingAfter(Math.max(0, offsetBytes - piece.at)); i < used.count()
                && piece.at + used.start(i) < end; i++) {
                long from = Math.max(offsetBytes, piece.at + used.start(i));
                long to = Math.min(end, piece.at + used.end(i));
                if (from < to) {
                    piece.content.read(from - piece.at,
                        into.duplicate().position((int) (start + from - offsetBytes)).limit((int) (start + to - offsetBytes)));
                }
            }
        }
        into.position(into.limit());
    }

    @Override
    public void close() throws IOException {
        for (Piece piece : pieces) {
            piece.content.close();
        }
    }
}
