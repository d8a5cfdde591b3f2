package app.granary.server.agent;

import app.granary.engine.remote.RemoteFiles;
import app.granary.server.home.GranarySettings;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import org.apache.catalina.connector.Connector;
import org.apache.coyote.http11.Http11NioProtocol;
import org.apache.tomcat.util.net.SSLHostConfig;
import org.apache.tomcat.util.net.SSLHostConfigCertificate;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.web.embedded.tomcat.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
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

    private final Connector connector;

    AgentPort(GranarySettings settings) throws IOException {
        this.connector = connector(Listen.parse(settings.listen()), OfficeCertificate.of(settings));
    }

    private static Connector connector(Listen listen, OfficeCertificate certificate) throws IOException {
        Connector out = new Connector(Http11NioProtocol.class.getName());
        out.setScheme("https");
        out.setSecure(true);
        out.setPort(listen.port());
        Http11NioProtocol protocol = (Http11NioProtocol) out.getProtocolHandler();
        protocol.setAddress(InetAddress.getByName(listen.address()));
        protocol.setSSLEnabled(true);
        SSLHostConfig tls = new SSLHostConfig();
        tls.setProtocols("TLSv1.3");
        SSLHostConfigCertificate own = new SSLHostConfigCertificate(tls, SSLHostConfigCertificate.Type.EC);
        own.setCertificateKeystoreFile(certificate.store().toString());
        own.setCertificateKeystorePassword(certificate.secret());
        own.setCertificateKeystoreType("PKCS12");
        tls.addCertificate(own);
        out.addSslHostConfig(tls);
        return out;
    }

    /** As it really is, also where any free one was asked for. */
    int port() {
        return connector.getLocalPort();
    }

    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> agentsConnector() {
        return factory -> factory.addAdditionalTomcatConnectors(connector);
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
