import networkx as nx

from valley import lines, roads

valley = nx.Graph([("Mill", "Church"), ("Church", "Bridge"), ("Bridge", "Mill"), ("Bridge", "Quarry")])
tree = nx.DiGraph([("Depot", "Mill"), ("Depot", "Church"), ("Mill", "Bridge")])
print("from the mill:", roads.walk(valley, "Mill"))
print(roads.sketch(tree))
print("knots:", roads.knots(tree))
print("to the bridge:", roads.beyond(tree, "Bridge"))
print("loops:", roads.loops(valley))
print("\n".join(lines.summary(valley)))
