package example.pages;

import java.util.ArrayList;
import java.util.List;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.parser.Parser;

/** The pages of a farmers' market. */
public class Pages {
    public static String list(String xml) {
        return Jsoup.parse(xml, "", Parser.xmlParser()).outerHtml();
    }

    public static boolean bare(String html) {
        Document page = Jsoup.parse(html, "", Parser.xmlParser());
        return page.body() == null;
    }

    public static boolean headless(String html) {
        return Jsoup.parse(html, "", Parser.xmlParser()).head() == null;
    }

    public static int stalls(String html, String words) {
        return Jsoup.parse(html).select("p:contains(" + words + ")").size();
    }

    public static String paragraph(String html) {
        return Jsoup.parse(html).body().html();
    }

    public static String link(String base, String path) {
        return Jsoup.parse("<a href='" + path + "'>stall</a>", base).select("a").first().absUrl("href");
    }

    public static int room() {
        return Jsoup.connect("http://market.example/").request().maxBodySize();
    }

    public static String refuse(String selector) {
        try {
            Jsoup.parse("<p>").select(selector);
        } catch (IllegalArgumentException wrong) {
            return wrong.getMessage();
        }
        return "";
    }

    public static String refuseAddress(String address) {
        try {
            Jsoup.connect(address);
        } catch (IllegalArgumentException wrong) {
            return wrong.getMessage();
        }
        return "";
    }

    public static List<String> moved(String html) {
        Document page = Jsoup.parse(html);
        Element from = page.select("#from").first();
        Element to = page.select("#to").first();
        List<Node> children = from.childNodes();
        List<String> names = new ArrayList<>();
        to.appendChild(children.get(0));
        for (Node child : children) {
            names.add(child.outerHtml());
        }
        return names;
    }

    public static String centred(String html) {
        return Jsoup.parse(html).body().children().first().tag().isBlock() ? "block" : "inline";
    }

    public static String escaped(String text) {
        return new org.jsoup.nodes.TextNode(text).outerHtml();
    }

    public static String mistake(String html) {
        Parser parser = Parser.htmlParser().setTrackErrors(1);
        Jsoup.parse(html, "", parser);
        return parser.getErrors().get(0).getErrorMessage();
    }

    public static int market(String html) {
        return Jsoup.parse(html).select("stall").size();
    }

    public static String boundary(String html) {
        return Jsoup.parse(html).body().text();
    }
}
