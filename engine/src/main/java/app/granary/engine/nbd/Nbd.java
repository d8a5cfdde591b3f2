package app.granary.engine.nbd;

/**
 * Numbers of the Network Block Device protocol (https://github.com/NetworkBlockDevice/nbd/blob/master/doc/proto.md; the values from
 * memory, checked against what QEMU's client takes).
 */
final class Nbd {
    static final long MAGIC = 0x4e42444d41474943L;
    static final long OPTION = 0x49484156454f5054L;
    static final long OPTION_REPLY = 0x3e889045565a9L;
    static final int REQUEST = 0x25609513;
    static final int SIMPLE_REPLY = 0x67446698;
    static final int CHUNK_REPLY = 0x668e33ef;

    /** Handshake flags. */
    static final int FIXED_NEWSTYLE = 1;
    static final int NO_ZEROES = 2;

    /** Options. */
    static final int EXPORT_NAME = 1;
    static final int ABORT = 2;
    static final int LIST = 3;
    static final int INFO = 6;
    static final int GO = 7;
    static final int STRUCTURED_REPLY = 8;
    static final int LIST_META_CONTEXT = 9;
    static final int SET_META_CONTEXT = 10;

    /** Answers to options. */
    static final int ACK = 1;
    static final int SERVER = 2;
    static final int ABOUT = 3;
    static final int META_CONTEXT = 4;
    static final int NOT_SUPPORTED = 0x80000001;
    static final int INVALID = 0x80000003;
    static final int UNKNOWN = 0x80000006;

    /** What is told about an export. */
    static final int ABOUT_EXPORT = 0;
    static final int ABOUT_BLOCK_SIZE = 3;

    /** Transmission flags: it has flags, is only read, by several connections, and knows the request for a cache. */
    static final int EXPORT_FLAGS = 1 | 2 | 1 << 8;

    /** Requests. */
    static final int READ = 0;
    static final int WRITE = 1;
    static final int END = 2;
    static final int BLOCK_STATUS = 7;
    /** Of a block status: one stretch is enough. */
    static final int ONE_STRETCH = 1 << 3;

    /** Kinds of chunks. */
    static final int LAST = 1;
    static final int NOTHING = 0;
    static final int DATA = 1;
    static final int HOLE = 2;
    static final int STATUS = 5;
    static final int FAILED = 1 << 15 | 1;

    /** Failures. */
    static final int NOT_PERMITTED = 1;
    static final int IO = 5;
    static final int BAD = 22;
    static final int UNSUPPORTED = 95;

    /** Of the one context there is: which stretches are zeros and not stored. */
    static final String ALLOCATION = "base:allocation";
    static final int ALLOCATION_ID = 1;
    static final int ZEROS_NOT_STORED = 3;

    private Nbd() {
    }
}
