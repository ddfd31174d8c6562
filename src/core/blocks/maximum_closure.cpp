#include "blocks/maximum_closure.h"

#include <boost/graph/adjacency_list.hpp>
#include <boost/graph/boykov_kolmogorov_max_flow.hpp>
#include <limits>

namespace fox {

namespace {

using Traits = boost::adjacency_list_traits<boost::vecS, boost::vecS, boost::directedS>;
using FlowGraph = boost::adjacency_list<
    boost::vecS, boost::vecS, boost::directedS,
    boost::property<boost::vertex_index_t, std::size_t,
                    boost::property<boost::vertex_color_t, boost::default_color_type,
                                    boost::property<boost::vertex_distance_t, long,
                                                    boost::property<boost::vertex_predecessor_t, Traits::edge_descriptor>>>>,
    boost::property<boost::edge_capacity_t, double,
                    boost::property<boost::edge_residual_capacity_t, double,
                                    boost::property<boost::edge_reverse_t, Traits::edge_descriptor>>>>;

void join(FlowGraph& graph, std::size_t from, std::size_t to, double capacity) {
    const auto there = boost::add_edge(from, to, graph).first, back = boost::add_edge(to, from, graph).first;
    boost::put(boost::edge_capacity, graph, there, capacity);
    boost::put(boost::edge_capacity, graph, back, 0.0);
    boost::put(boost::edge_reverse, graph, there, back);
    boost::put(boost::edge_reverse, graph, back, there);
}

} // namespace

std::vector<bool> maximumClosure(const ClosureProblem& problem) {
    const auto n = problem.worth.size(), source = n, sink = n + 1;
    FlowGraph graph(n + 2);
    double all = 1;
    for (const double w : problem.worth) all += w > 0 ? w : -w;
    for (std::size_t i = 0; i < n; ++i) {
        if (problem.worth[i] > 0) join(graph, source, i, problem.worth[i]);
        if (problem.worth[i] < 0) join(graph, i, sink, -problem.worth[i]);
    }
    for (const auto& [one, needed] : problem.needs) join(graph, one, needed, all); // never cut
    boost::boykov_kolmogorov_max_flow(graph, source, sink);
    // what the source still reaches, by what is left of the capacities
    std::vector<bool> reached(n + 2, false);
    std::vector<std::size_t> open{source};
    reached[source] = true;
    const double slack = all * 1e-12;
    while (!open.empty()) {
        const auto at = open.back();
        open.pop_back();
        for (auto [e, end] = boost::out_edges(at, graph); e != end; ++e) {
            const auto to = boost::target(*e, graph);
            if (reached[to] || !(boost::get(boost::edge_residual_capacity, graph, *e) > slack)) continue;
            reached[to] = true;
            open.push_back(to);
        }
    }
    reached.resize(n);
    return reached;
}

} // namespace fox
