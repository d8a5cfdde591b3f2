package app.granary.server.agent;

import app.granary.engine.remote.RemoteFiles;
import app.granary.server.home.GranarySettings;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.util.HexFormat;
import java.util.Optional;
import java.util.OptionalInt;
import org.apache.catalina.connector.Connector;
import org.apache.coyote.http11.Http11NioProtocol;
import org.apache.tomcat.util.net.SSLHostConfig;
import org.apache.tomcat.util.net.SSLHostConfigCertificate;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.web.embedded.tomcat.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.web.filter.OncePerRequestFilter;

/** The port computers join by, when one was asked for: TLS with the office's own certificate, and nothing else on it. */
@Configuration
@ConditionalOnProperty("granary.listen")
class AgentPort {
    /** All that is on it, and on it alone. */
    static final String PATH = "/agents/";
    private static final long MOST_OF_STRANGER = 10_000;
    /** Several records of TLS, so that bytes that come in bulk are not handed on record by record. */
    private static final int READ_AT_ONCE = 64 << 10;

    private final OfficeCertificate certificate;
    private final Connector connector;
    /** For pages, where they were asked for besides: with the same certificate, and under the same rules as on loopback. */
    private final Optional<Connector> screens;

    AgentPort(GranarySettings settings) throws IOException {
        Listen listen = Listen.parse(settings.listen());
        this.certificate = OfficeCertificate.of(settings);
        this.connector = connector(listen, certificate);
        this.screens = settings.screensToo() ? Optional.of(connector(new Listen(listen.address(), settings.screensPort()), certificate))
            : Optional.empty();
    }

    private static Connector connector(Listen listen, OfficeCertificate certificate) throws IOException {
        Connector out = new Connector(Http11NioProtocol.class.getName());
        out.setScheme("https");
        out.setSecure(true);
        out.setPort(listen.port());
        Http11NioProtocol protocol = (Http11NioProtocol) out.getProtocolHandler();
        protocol.setAddress(InetAddress.getByName(listen.address()));
        protocol.setSSLEnabled(true);
        protocol.setProperty("socket.appReadBufSize", "" + READ_AT_ONCE);
        SSLHostConfig tls = new SSLHostConfig();
        tls.setProtocols("TLSv1.3");
        SSLHostConfigCertificate own = new SSLHostConfigCertificate(tls, SSLHostConfigCertificate.Type.EC);
        own.setCertificateKeystore(certificate.keys());
        own.setCertificateKeystorePassword(certificate.secret());
        tls.addCertificate(own);
        out.addSslHostConfig(tls);
        return out;
    }

    /** By which the computers that join know this office. */
    OfficeCertificate certificate() {
        return certificate;
    }

    /** As it really is, also where any free one was asked for. */
    int port() {
        return connector.getLocalPort();
    }

    /** Where pages are answered over TLS; empty where they are not. */
    OptionalInt screensPort() {
        return screens.map(there -> OptionalInt.of(there.getLocalPort())).orElse(OptionalInt.empty());
    }

    /** Told with the address on loopback, and the beginning of the certificate's digest: a browser knows nobody who signed it. */
    @EventListener(ApplicationReadyEvent.class)
    void tellScreens(ApplicationReadyEvent ready) throws IOException {
        if (screens.isPresent()) {
            GranarySettings settings = ready.getApplicationContext().getBean(GranarySettings.class);
            String digits = HexFormat.of().withUpperCase().withDelimiter(":").formatHex(certificate.digest());
            System.out.println("and at https://" + Listen.parse(settings.listen()).address() + ":" + screens.get().getLocalPort()
                + ", where the browser asks whether it may trust a certificate whose SHA-256 begins with " + digits.substring(0, 29) + ".");
        }
    }

    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> agentsConnector() {
        return factory -> {
            factory.addAdditionalTomcatConnectors(connector);
            screens.ifPresent(factory::addAdditionalTomcatConnectors);
        };
    }

    @Bean
    FilterRegistrationBean<NothingElse> nothingElse() {
        FilterRegistrationBean<NothingElse> out = new FilterRegistrationBean<>(new NothingElse(this));
        out.setOrder(Ordered.HIGHEST_PRECEDENCE);
        return out;
    }

    /** Agents know the office by its certificate and it them by their tokens: no session, no page, no cookie. */
    @Bean
    @Order(Ordered.HIGHEST_PRECEDENCE)
    SecurityFilterChain agentsChain(HttpSecurity http) throws Exception {
        return http.securityMatcher(PATH + "**").csrf(csrf -> csrf.disable())
            .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
            .requestCache(cache -> cache.disable()).authorizeHttpRequests(requests -> requests.anyRequest().permitAll()).build();
    }

    /** Pages are not answered on the agents' port, nor agents on the pages'. */
    static final class NothingElse extends OncePerRequestFilter {
        private final AgentPort agents;

        NothingElse(AgentPort agents) {
            this.agents = agents;
        }

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
            boolean here = request.getLocalPort() == agents.port();
            String path = request.getRequestURI();
            long most = path.startsWith(PATH + "join") ? MOST_OF_STRANGER : RemoteFiles.MOST;
            if (here && (request.getContentLengthLong() > most || request.getHeader("Transfer-Encoding") != null)) {
                response.setHeader("Connection", "close");
                response.setStatus(HttpServletResponse.SC_REQUEST_ENTITY_TOO_LARGE);
                response.setContentType("application/problem+json");
                response.getWriter().write("{\"status\":413,\"detail\":\"That is longer than anything an agent says.\"}");
            } else if (here == path.startsWith(PATH)) {
                chain.doFilter(request, response);
            } else {
                response.setStatus(HttpServletResponse.SC_NOT_FOUND);
            }
        }
    }
}
