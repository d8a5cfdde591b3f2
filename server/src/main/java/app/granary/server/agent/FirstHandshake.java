package app.granary.server.agent;

import app.granary.server.home.GranarySettings;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManagerFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Speaks with the agents' port once when it has been opened: the first handshake of a process loads so much that it takes a second or two,
 * and a person who lets the first computer join would wait for it.
 */
@Component
@ConditionalOnProperty("granary.listen")
class FirstHandshake {
    private static final Logger LOG = LoggerFactory.getLogger(FirstHandshake.class);
    private static final int PATIENCE_MILLIS = 10_000;

    private final GranarySettings settings;
    private final AgentPort port;

    FirstHandshake(GranarySettings settings, AgentPort port) {
        this.settings = settings;
        this.port = port;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        Thread shaking = new Thread(() -> {
            try {
                shake();
            } catch (IOException | GeneralSecurityException | RuntimeException without) {
                LOG.debug("the first handshake is left to the first computer", without);
            }
        }, "granary-handshake");
        shaking.setDaemon(true);
        shaking.start();
    }

    private void shake() throws IOException, GeneralSecurityException {
        TrustManagerFactory own = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        own.init(port.certificate().trusted());
        SSLContext tls = SSLContext.getInstance("TLSv1.3");
        tls.init(null, own.getTrustManagers(), null);
        InetAddress address = InetAddress.getByName(Listen.parse(settings.listen()).address());
        try (SSLSocket socket = (SSLSocket) tls.getSocketFactory().createSocket(address, port.port())) {
            socket.setSoTimeout(PATIENCE_MILLIS);
            socket.startHandshake();
            OutputStream out = socket.getOutputStream();
            out.write(("GET " + AgentPort.PATH + "network?bytes=1 HTTP/1.1\r\nHost: agents\r\nConnection: close\r\n\r\n")
                .getBytes(StandardCharsets.US_ASCII));
            out.flush();
            socket.getInputStream().readAllBytes();
        }
    }
}
