package app.granary.bench;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/** The server's answer to "all computers" for an office of 500 computers and 1 200 disks, asked 200 times over loopback. Absolute: a person waits for it. */
final class InventoryBench implements AutoCloseable {
    private static final int COMPUTERS = 500;
    private static final int DISKS = 1_200;
    private static final int ASKED = 200;
    private static final String PASSWORD = "a password for the bench";

    private final Process server;
    private final String url;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).build();

    InventoryBench(String granary, Path home) throws IOException, InterruptedException {
        int port = 8497;
        ProcessBuilder builder = new ProcessBuilder(granary, "run").redirectErrorStream(true).redirectOutput(home.resolveSibling("server.log").toFile());
        builder.environment().put("GRANARY_HOME", home.toString());
        builder.environment().put("GRANARY_PORT", "" + port);
        server = builder.start();
        url = "http://127.0.0.1:" + port;
        for (int i = 0; !answers(); i++) {
            if (i > 600 || !server.isAlive()) {
                throw new IOException("the server did not start, see " + home.resolveSibling("server.log"));
            }
            Thread.sleep(500);
        }
    }

    private boolean answers() throws InterruptedException {
        try {
            return send("GET", "/api/v1/session", "", "application/json").statusCode() == 200;
        } catch (IOException notYet) {
            return false;
        }
    }

    private HttpResponse<String> send(String method, String path, String body, String type) throws IOException, InterruptedException {
        String token = cookies.getCookieStore().getCookies().stream().filter(c -> c.getName().equals("XSRF-TOKEN")).map(HttpCookie::getValue).findFirst().orElse("");
        return http.send(HttpRequest.newBuilder(URI.create(url + path)).header("Content-Type", type).header("X-XSRF-TOKEN", token)
            .method(method, body.isEmpty() ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(body)).build(), HttpResponse.BodyHandlers.ofString());
    }

    /** Milliseconds of the 95th in a hundred. */
    double p95() throws IOException, InterruptedException {
        require(send("POST", "/api/v1/session/first", "{\"name\":\"bench\",\"password\":\"" + PASSWORD + "\"}", "application/json"));
        require(send("GET", "/api/v1/session", "", "application/json"));
        String report = report();
        String review = require(send("POST", "/api/v1/imports/review", report, "text/plain"));
        String basis = review.replaceAll("(?s).*\"basis\"\\s*:\\s*\"([0-9a-f]+)\".*", "$1");
        require(send("POST", "/api/v1/imports/accept?basis=" + basis, report, "text/plain"));
        double[] millis = new double[ASKED];
        for (int i = -20; i < ASKED; i++) { // the first warm the server
            long began = System.nanoTime();
            String all = require(send("GET", "/api/v1/computers", "", "application/json"));
            if (i >= 0) {
                millis[i] = (System.nanoTime() - began) / 1e6;
            }
            if (!all.contains("PC-" + (COMPUTERS - 1))) {
                throw new IOException("not all computers came");
            }
        }
        Arrays.sort(millis);
        return millis[ASKED * 95 / 100];
    }

    private static String require(HttpResponse<String> response) throws IOException {
        if (response.statusCode() / 100 != 2) {
            throw new IOException(response.statusCode() + " " + response.body());
        }
        return response.body();
    }

    private static String report() {
        StringBuilder out = new StringBuilder("{\"format\": \"granary-inventory\", \"version\": 1, \"computers\": [");
        for (int i = 0, disk = 0; i < COMPUTERS; i++) {
            out.append(i == 0 ? "" : ",").append("\n{\"name\": \"PC-").append(i).append("\", \"maker\": \"Holt Systems\", \"disks\": [");
            for (int most = (i + 1) * DISKS / COMPUTERS, first = disk; disk < most; disk++) {
                out.append(disk == first ? "" : ",").append("{\"model\": \"Halden S2\", \"serial\": \"22-HS-").append(disk).append("\", \"sizeBytes\": 500107862016, \"scheme\": \"gpt\", \"partitions\": [");
                for (String part : List.of("1,vfat,1048576,104857600,33000000", "2,ntfs,122683392,449000000000,210000000000", "3,ntfs,449200000000,900000000,500000000")) {
                    String[] f = part.split(",");
                    out.append(f[0].equals("1") ? "" : ",").append("{\"number\": ").append(f[0]).append(", \"fileSystem\": \"").append(f[1]).append("\", \"startBytes\": ").append(f[2])
                        .append(", \"sizeBytes\": ").append(f[3]).append(", \"usedBytes\": ").append(Long.parseLong(f[4]) + disk).append('}');
                }
                out.append("]}");
            }
            out.append("]}");
        }
        return out.append("]}").toString();
    }

    @Override
    public void close() throws InterruptedException {
        server.descendants().forEach(ProcessHandle::destroy);
        server.destroy();
        server.waitFor();
    }
}
