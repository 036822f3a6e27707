package example.fetch;

import java.util.ArrayList;
import java.util.List;
import org.jsoup.nodes.Comment;
import org.jsoup.nodes.DataNode;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.TextNode;
import org.jsoup.parser.Tag;
import org.jsoup.select.Elements;

/** The signs over the stalls. */
public class Signs {
    public Element sign(String name) {
        Element sign = new Element(Tag.valueOf("p"), "");
        sign.appendChild(new TextNode(name, ""));
        sign.appendChild(new Comment("painted by hand", ""));
        return sign;
    }

    public DataNode prices(String json) {
        return new DataNode(json, "");
    }

    public TextNode price(String encoded) {
        return TextNode.createFromEncoded(encoded, "");
    }

    public List<String> links(Elements signs) {
        List<String> list = new ArrayList<>();
        for (Element sign : signs) {
            list.add(sign.absUrl("href"));
        }
        List old = list;
        return old;
    }
}
