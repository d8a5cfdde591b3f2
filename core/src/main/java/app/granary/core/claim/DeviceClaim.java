package app.granary.core.claim;

/** That a run uses a device, and how. */
public record DeviceClaim(Device device, Use use) {
    /** How a device is used. */
    public enum Use {
        /** Its blocks are read, and must not change meanwhile: an image of a disk that is written to is torn. */
        READ,
        /** Its blocks are overwritten. */
        WRITE,
        /** Images on it are read, written or repaired, through its file system. */
        STORE
    }

    public static DeviceClaim read(Device device) {
        return new DeviceClaim(device, Use.READ);
    }

    public static DeviceClaim write(Device device) {
        return new DeviceClaim(device, Use.WRITE);
    }

    public static DeviceClaim store(Device device) {
        return new DeviceClaim(device, Use.STORE);
    }

    /**
     * Whether both can be held at once: on different devices, or when both only read. Two stores on one drive would halve each other's
     * rate, so they take turns.
     */
    public boolean besides(DeviceClaim other) {
        return !device.key().equals(other.device.key()) || use == Use.READ && other.use == Use.READ;
    }
}
