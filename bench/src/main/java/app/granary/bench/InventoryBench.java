package app.granary.bench;

import java.io.IOException;
import java.util.List;

/**
 * The server's answer to "all computers" for an office of 500 computers and 1 200 disks, asked 200 times over loopback. Absolute: a person
 * waits for it.
 */
final class InventoryBench {
    private static final int COMPUTERS = 500;
    private static final int DISKS = 1_200;
    private static final int ASKED = 200;

    private InventoryBench() {
    }

    /** Milliseconds of the 95th in a hundred. */
    static double p95(OfficeServer server) throws IOException, InterruptedException {
        server.enter(true);
        String report = report();
        String review = server.post("/api/v1/imports/review", report, "text/plain");
        String basis = review.replaceAll("(?s).*\"basis\"\\s*:\\s*\"([0-9a-f]+)\".*", "$1");
        server.post("/api/v1/imports/accept?basis=" + basis, report, "text/plain");
        return server.answer(95, "/api/v1/computers", ASKED, all -> all.contains("PC-" + (COMPUTERS - 1)));
    }

    private static String report() {
        StringBuilder out = new StringBuilder("{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [");
        for (int i = 0, disk = 0; i < COMPUTERS; i++) {
            out.append(i == 0 ? "" : ",").append("\n{\"name\": \"PC-").append(i).append("\", \"maker\": \"Holt Systems\", \"disks\": [");
            for (int most = (i + 1) * DISKS / COMPUTERS, first = disk; disk < most; disk++) {
                out.append(disk == first ? "" : ",").append("{\"model\": \"Halden S2\", \"serial\": \"22-HS-").append(disk)
                    .append("\", \"sizeBytes\": 500107862016, \"scheme\": \"gpt\", \"partitions\": [");
                for (String part : List.of("1,vfat,1048576,104857600,33000000", "2,ntfs,122683392,449000000000,210000000000",
                    "3,ntfs,449200000000,900000000,500000000")) {
                    String[] f = part.split(",");
                    out.append(f[0].equals("1") ? "" : ",").append("{\"number\": ").append(f[0]).append(", \"fileSystem\": \"").append(f[1])
                        .append("\", \"startBytes\": ").append(f[2])
                        .append(", \"sizeBytes\": ").append(f[3]).append(", \"usedBytes\": ").append(Long.parseLong(f[4]) + disk)
                        .append('}');
                }
                out.append("]}");
            }
            out.append("]}");
        }
        return out.append("]}").toString();
    }
}
