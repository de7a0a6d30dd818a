"""
Early and late starts of scheduling networks as longest paths, found by the Bellman-Ford algorithm of networkx (Hagberg,
Schult, Swart: "Exploring network structure, dynamics, and function using NetworkX", 2008): every link is a difference
constraint s_j >= s_i + w. Reads a list of networks from standard input, writes the answers to standard output.
"""
import json
import sys

import networkx as nx


def weight(kind, lag, before, after):
    return {"FS": before + lag, "SS": lag, "FF": before + lag - after, "SF": lag - after}[kind]


answers = []
for net in json.load(sys.stdin):
    duration, project, floor = net["duration"], net["project"], net["floor"]
    graph = nx.DiGraph()
    for i, d in enumerate(duration):
        graph.add_edge("source", i, w=-floor[i])
    for a, b, kind, lag in net["links"]:
        w = -weight(kind, lag, duration[a], duration[b])
        if not graph.has_edge(a, b) or w < graph[a][b]["w"]:
            graph.add_edge(a, b, w=w)
    far = nx.single_source_bellman_ford_path_length(graph, "source", weight="w")
    early = [-far[i] for i in range(len(duration))]
    end = {}
    for i, d in enumerate(duration):
        end[project[i]] = max(end.get(project[i], 0), early[i] + d)
    back = nx.DiGraph()
    for i, d in enumerate(duration):
        back.add_edge("sink", i, w=end[project[i]] - d)
    for a, b, kind, lag in net["links"]:
        w = -weight(kind, lag, duration[a], duration[b])
        if not back.has_edge(b, a) or w < back[b][a]["w"]:
            back.add_edge(b, a, w=w)
    near = nx.single_source_bellman_ford_path_length(back, "sink", weight="w")
    answers.append({"early": early, "late": [near[i] for i in range(len(duration))]})
json.dump(answers, sys.stdout)
