package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.agent.Protocol;
import app.granary.engine.media.Tools;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509ExtendedTrustManager;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

/** Whoever reaches the agents' port and has no code, in numbers. */
class AgentFloodTest extends AgentOffice {
    private static final int KNOCKS = 60;
    private static final int SLOW = 150;

    private Socket from(String address) throws IOException {
        return new Socket(InetAddress.getByName("127.0.0.1"), port.port(), InetAddress.getByName(address), 0);
    }

    private String knock(SSLContext anyone, int i) throws IOException {
        String body = "{\"protocol\":" + Protocol.VERSION + ",\"secret\":\"000000000" + i % 10 + "\",\"name\":\"X\",\"clock\":\""
            + Instant.now() + "\"}";
        try (Socket one = from("127.0.0.2"); Socket in = anyone.getSocketFactory().createSocket(one, "127.0.0.1", port.port(), true)) {
            in.getOutputStream().write(("POST /agents/join HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nContent-Type: "
                + "application/json\r\nContent-Length: " + body.length() + "\r\n\r\n" + body).getBytes(StandardCharsets.UTF_8));
            return new String(in.getInputStream().readAllBytes(), StandardCharsets.UTF_8).lines().findFirst().orElse("");
        }
    }

    /** Guesses from one address, and connections from another that say nothing or begin and say no more: a computer joins meanwhile. */
    @Test
    void aFloodOfJoinsAndOfSlowSendersKeepsNobodyOut() throws Exception {
        X509ExtendedTrustManager trusting = Mockito.mock(X509ExtendedTrustManager.class);
        Mockito.when(trusting.getAcceptedIssuers()).thenReturn(new X509Certificate[0]);
        SSLContext anyone = SSLContext.getInstance("TLSv1.3");
        anyone.init(null, new TrustManager[] {trusting}, null);
        List<Socket> slow = new ArrayList<>();
        try {
            for (int i = 0; i < SLOW; i++) {
                Socket each = from("127.0.0.3");
                slow.add(each);
                each.getOutputStream().write(i % 2 == 0 ? new byte[0] : new byte[] {0x16, 3, 1});
            }
            int tooMany = 0;
            for (int i = 0; i < KNOCKS; i++) {
                String answer = knock(anyone, i);
                assertTrue(answer.startsWith("HTTP/1.1 403") || answer.startsWith("HTTP/1.1 429"), answer);
                tooMany += answer.startsWith("HTTP/1.1 429") ? 1 : 0;
            }
            assertEquals(KNOCKS - JoinCodes.MOST_WRONG, tooMany);
            Path folder = Files.createDirectories(home().resolve("scar"));
            Tools.run(folder, "truncate -s 64M scar.img; mkfs.ext4 -q -F scar.img");
            join("SCAR", "--disk", folder.resolve("scar.img").toString());
            assertTrue(diskOf("SCAR").length() > 3);
        } finally {
            for (Socket each : slow) {
                each.close();
            }
        }
    }
}
