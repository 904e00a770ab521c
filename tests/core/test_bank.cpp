// The bank: morphs out of others, shares, regions, heads set on necks, files, and what the project remembers.
#include <catch2/catch.hpp>

#include "tests/core/bank_support.h"

TEST_CASE("Morph arithmetic: sums, differences, mirrored sides and halves") {
    const Morph a = whole("a", 1), b = whole("b", 2);
    const Points& base = kit().mesh.positions;
    SECTION("a sum and its terms mix to the same, a difference takes back") {
        const auto sum = sum_morphs(kit(), {{&a, 0.5}, {&b, -2}}, "sum");
        REQUIRE(sum);
        CHECK(apart(mix_morphs(base, {{&*sum, 1}}), mix_morphs(base, {{&a, 0.5}, {&b, -2}})) < 1e-9);
        const auto none = sum_morphs(kit(), {{&a, 1}, {&a, -1}}, "none");
        REQUIRE(none);
        CHECK(none->index.empty());
        CHECK_FALSE(sum_morphs(kit(), {{&a, 0}}, "nothing"));
        Morph other = a;
        other.topology = "another";
        CHECK_FALSE(sum_morphs(kit(), {{&other, 1}}, "x"));
    }
    SECTION("mirrored twice it is itself") {
        const auto once = mirrored_morph(kit(), a, "m");
        const auto twice = mirrored_morph(kit(), *once, "a");
        CHECK(apart(mix_morphs(base, {{&*twice, 1}}), mix_morphs(base, {{&a, 1}})) == 0);
        CHECK(apart(mix_morphs(base, {{&*once, 1}}), mix_morphs(base, {{&a, 1}})) > 1);
    }
    SECTION("left and right half add up to the last bit, and each leaves the other side alone") {
        const auto left = half_morph(kit(), a, Side::Left, 8, "l"), right = half_morph(kit(), a, Side::Right, 8, "r");
        const auto sum = sum_morphs(kit(), {{&*left, 1}, {&*right, 1}}, "both");
        CHECK(apart(mix_morphs(base, {{&*sum, 1}}), mix_morphs(base, {{&a, 1}})) < 1e-12);
        for (const Index v : left->index) REQUIRE(base[v].x() > -8);
        for (const Index v : right->index) REQUIRE(base[v].x() < 8);
        CHECK_FALSE(half_morph(kit(), a, Side::Left, -1, "l"));
    }
    SECTION("one side on both is symmetric by the kit's pairs") {
        const auto both = symmetric_morph(kit(), a, Side::Left, 8, "both");
        REQUIRE(both);
        const Points shape = mix_morphs(base, {{&*both, 1}}), source = mix_morphs(base, {{&a, 1}});
        for (Index v = 0; v < base.size(); ++v) {
            const Vec3 mine = shape[v] - base[v], other = shape[kit().mirror[v]] - base[kit().mirror[v]];
            REQUIRE((mine - Vec3(-other.x(), other.y(), other.z())).norm() < 1e-12);
            if (base[v].x() > 8) REQUIRE((shape[v] - source[v]).norm() < 1e-12);
        }
    }
}

TEST_CASE("Shares: head and body add up to the whole exactly") {
    const Points& base = kit().mesh.positions;
    SECTION("to 1e-9 mm, for any shape and band") {
        for (unsigned seed = 1; seed <= 3; ++seed) {
            ShareOptions options;
            options.band_mm = 20.0 + 30 * seed;
            options.on_floor = false;
            const Points shape = waved(seed);
            const auto shares = split_shares(kit(), shape, "s", options);
            REQUIRE(shares);
            CHECK(apart(mix_morphs(base, {{&shares->head, 1}, {&shares->body, 1}}), shape) < 1e-9);
            CHECK(shares->head.kind == MorphKind::Head);
            CHECK(shares->head.root.isZero(0));
        }
    }
    SECTION("a tall person's head share does not carry the height, the body share does, feet on the floor") {
        const Points tall = demo_shape("tall_carrier");
        const auto shares = split_shares(kit(), tall, "tall");
        REQUIRE(shares);
        CHECK(shares->neck_move.y() < -150);
        CHECK(shares->body.root.y() > 150);
        // the head share alone leaves the neck ring where it is
        const Points head = mix_morphs(base, {{&shares->head, 1}});
        CHECK(seat_gap(kit(), head).worst < 1e-9);
        CHECK(std::abs(floor_of(kit(), head) - floor_of(kit(), base)) < 1e-9);
        const Points body = mix_morphs(base, {{&shares->body, 1}}),
                     both = mix_morphs(base, {{&shares->head, 1}, {&shares->body, 1}});
        CHECK(std::abs(floor_of(kit(), body) - floor_of(kit(), base)) < 1e-9);
        Points lifted = tall;
        for (Vec3& p : lifted) p += shares->lifted;
        CHECK(apart(both, lifted) < 1e-9);
        // the head share moves no foot, the body share no crown: what moves it is its root
        for (const Index v : shares->head.index) REQUIRE(base[v].y() > 1200);
    }
    SECTION("painted weights instead of the band; wrong ones are refused") {
        std::vector<double> half(base.size(), 0.5);
        ShareOptions options;
        options.head = &half;
        options.on_floor = false;
        const Points shape = waved(4);
        const auto shares = split_shares(kit(), shape, "s", options);
        REQUIRE(shares);
        CHECK(apart(mix_morphs(base, {{&shares->head, 1}, {&shares->body, 1}}), shape) < 1e-9);
        half.resize(5);
        CHECK_FALSE(split_shares(kit(), shape, "s", options));
        CHECK_FALSE(split_shares(kit(), Points(7, Vec3::Zero()), "s"));
    }
    SECTION("a share for each region of the face adds up as well") {
        const Morph m = whole("m", 8);
        const auto parts = region_shares(kit(), face_regions(kit()), m);
        REQUIRE(parts);
        CHECK(parts->size() >= 10);
        std::vector<MorphAmount> all;
        for (const Morph& p : *parts) all.push_back({&p, 1});
        CHECK(apart(mix_morphs(base, all), mix_morphs(base, {{&m, 1}})) < 1e-9);
    }
    SECTION("any regions: weights that ask for more than there is get what is left") {
        const Morph m = whole("m", 5);
        const std::vector<double> most(base.size(), 0.8);
        const auto parts = split_morph(kit(), m, {{"one", most}, {"two", most}}, "rest");
        REQUIRE(parts);
        REQUIRE(parts->size() == 3);
        CHECK(apart(mix_morphs(base, {{&(*parts)[0], 1}, {&(*parts)[1], 1}, {&(*parts)[2], 1}}),
                    mix_morphs(base, {{&m, 1}})) < 1e-9);
        CHECK((*parts)[2].index.empty());
        std::vector<double> broken = most;
        broken[3] = std::nan("");
        CHECK_FALSE(split_morph(kit(), m, {{"one", broken}}, "rest"));
    }
}

TEST_CASE("Shares: painted weights are kept beside the kit and read with it") {
    Scratch scratch;
    std::filesystem::copy(demo("kit"), scratch / "kit", std::filesystem::copy_options::recursive);
    auto own = read_base_kit(scratch / "kit");
    REQUIRE(own);
    REQUIRE(own->head_share.empty());
    SoftWeights weights{{3, 10}, {0.25f, 1.0f}};
    REQUIRE(write_share_weights(*own, weights));
    CHECK(read_base_kit(scratch / "kit")->head_share == weights);
    CHECK(new_project(std::make_shared<BaseKit>(*read_base_kit(scratch / "kit"))).head_share == weights);
    REQUIRE(write_file(scratch / "kit/share_weights.json",
                       "{\"format\":\"veldstone-share-weights\",\"version\":1,\"topology\":\"else\"}"));
    const auto foreign = read_base_kit(scratch / "kit");
    REQUIRE_FALSE(foreign);
    CHECK(foreign.error().message.find("another base mesh") != std::string::npos);
    REQUIRE(write_file(scratch / "kit/share_weights.json", "{\"format\":\"veldst"));
    CHECK_FALSE(read_base_kit(scratch / "kit"));
    REQUIRE(write_share_weights(*own, {}));
    CHECK(read_base_kit(scratch / "kit"));
}

TEST_CASE("Region mix: no seams, one shape everywhere is that shape, parts stay whole") {
    const BaseRegions regions = face_regions(kit());
    const Points& base = kit().mesh.positions;
    REQUIRE(regions.names.size() >= 10);
    for (std::size_t v = 0; v < base.size(); v += 7) {
        float sum = 0;
        for (const auto& w : regions.weight) sum += w[v];
        REQUIRE(std::abs(sum - 1) < 1e-5f);
    }
    const auto owner_of = [&](const char* landmark) {
        return regions.names[regions.owner[kit().landmarks.at(landmark).vertices[0]]];
    };
    // a ray at the tip of the nose meets it, one past the ear nothing; each region is pointed at on its own skin
    const SurfaceQuery query(base, kit().triangulation.triangles);
    const Vec3 tip = kit().landmarks.at("pronasale").at(base);
    const std::string* met = region_met(regions, kit(), query, tip + Vec3(0, 0, 500), -Vec3::UnitZ());
    REQUIRE(met);
    CHECK(*met == "nose");
    CHECK_FALSE(region_met(regions, kit(), query, tip + Vec3(400, 0, 500), -Vec3::UnitZ()));
    const VertexIndices middles = middles_of(regions, kit());
    REQUIRE(middles.size() == regions.names.size());
    for (std::size_t r = 0; r < middles.size(); ++r) {
        if (middles[r] == kNone) continue;
        CHECK(regions.owner[middles[r]] == r);
        CHECK(base[middles[r]].x() >= 0);
    }
    CHECK(std::count(middles.begin(), middles.end(), kNone) < 2);
    CHECK(owner_of("pronasale") == "nose");
    CHECK(owner_of("gnathion") == "chin and jaw");
    CHECK(owner_of("exocanthion_l") == "eyes");
    CHECK(owner_of("stomion") == "mouth");
    CHECK(owner_of("vertex") == "skull");
    CHECK(owner_of("patella_l") == "body");
    const Morph warden = *make_morph(kit(), demo_shape("warden_clean"), "Warden"),
                tall = *make_morph(kit(), demo_shape("tall_carrier"), "Tall");
    const std::vector<const Morph*> morphs{&warden, &tall};
    SECTION("the same amount in every region of the head is the shape, but for a similarity") {
        Points shape = base, from, to;
        std::vector<RegionAmount> all;
        for (const std::string& name : regions.names) all.push_back({name, "Warden", 1});
        add_region_mix(regions, all, morphs, shape);
        const Points whole_shape = mix_morphs(base, {{&warden, 1}});
        for (const Index v : kit().region("face")) from.push_back(whole_shape[v]), to.push_back(shape[v]);
        SimilarityOptions plain;
        plain.outlier_mm = 0;
        const auto fit = fit_similarity(from, to, plain);
        REQUIRE(fit);
        for (std::size_t i = 0; i < from.size(); ++i)
            REQUIRE(((*fit)(from[i]) - to[i]).norm() < 1e-2);  // weights are single precision
    }
    SECTION("an expression in its region is that expression there, to the last bit of its weight") {
        const Morph smile = *make_morph(kit(), kit().expressions.at("smile"), "smile");
        Points shape = base;
        add_region_mix(regions, {{"mouth", "smile", 1}}, {&smile}, shape);
        const auto at = static_cast<std::size_t>(std::find(regions.names.begin(), regions.names.end(), "mouth") -
                                                 regions.names.begin());
        for (std::size_t i = 0; i < smile.index.size(); ++i) {
            const Index v = smile.index[i];
            REQUIRE((shape[v] - base[v] - static_cast<double>(regions.weight[at][v]) * smile.delta[i]).norm() < 1e-12);
        }
    }
    SECTION("a tall person's nose does not fly up by the height, and the skin is nowhere torn") {
        Points shape = base;
        add_region_mix(regions, {{"nose", "Tall", 1}, {"chin and jaw", "Warden", 1}, {"eyes", "Tall", 1}}, morphs,
                       shape);
        const Vec3 tip = kit().landmarks.at("pronasale").at(shape) - kit().landmarks.at("pronasale").at(base);
        CHECK(tip.norm() < 40);
        double worst = 0;
        for (const Triangle& t : kit().triangulation.triangles) {
            const double before = (base[t[0]] - base[t[1]]).norm(), now = (shape[t[0]] - shape[t[1]]).norm();
            if (before > 0.5) worst = std::max(worst, now / before);
        }
        CHECK(worst < 6);
        // the eyeball moves as one region moves it
        const KitPart& eye = *kit().part("eye_l");
        for (const Index v : eye.vertices) REQUIRE(regions.names[regions.owner[v]] == "eyes");
    }
    SECTION("unknown names are skipped, and no region takes more than eight") {
        Points shape = base;
        add_region_mix(regions, {{"elbow", "Warden", 1}, {"nose", "Nobody", 1}}, morphs, shape);
        CHECK(shape == base);
        ProjectState state = new_project(demo_kit());
        for (int k = 0; k < 8; ++k) REQUIRE(set_region_amount(state, {"nose", "m" + std::to_string(k), 0.5}));
        CHECK_FALSE(set_region_amount(state, {"nose", "one more", 0.5}));
        CHECK(set_region_amount(state, {"nose", "m3", 0.7}));
    }
}

TEST_CASE("Heads: carried between head mesh and whole mesh, set back on the neck") {
    const auto head = head_mesh(kit());
    REQUIRE(head);
    REQUIRE(check_mesh(head->mesh, "head"));
    const Points& base = kit().mesh.positions;
    SECTION("there and back is the same, and the seam's normals are the whole mesh's") {
        const Points shape = waved(3);
        CHECK(apart(whole_of(*head, head_of(*head, shape), shape), shape) == 0);
        const Points normals = head_normals(kit(), *head, shape),
                     all = vertex_normals(shape, kit().triangulation.triangles);
        for (std::size_t i = 0; i < head->whole.size(); ++i) REQUIRE(normals[i] == all[head->whole[i]]);
    }
    SECTION("a head from elsewhere closes to zero in both ways, and nothing beyond the fade changes") {
        VertexMask is_head(base.size(), 0);
        for (const Index v : head->whole) is_head[v] = 1;
        for (const Seat seat : {Seat::HeadToNeck, Seat::NeckToHead}) {
            Points shape = base;
            for (Index v = 0; v < base.size(); ++v) {
                if (is_head[v])
                    shape[v] += Vec3(14, -9, 5) + 3 * Vec3(std::sin(base[v].y() / 40), 0, std::cos(base[v].x() / 30));
            }
            const Points before = shape;
            seat_head(kit(), seat, 60, shape);
            if (seat == Seat::HeadToNeck) {
                for (const Index v : kit().neck_ring) REQUIRE((shape[v] - base[v]).norm() < 1e-9);
                for (Index v = 0; v < base.size(); ++v) {
                    if (!is_head[v]) REQUIRE(shape[v] == base[v]);
                }
                // above the fade the head's own form is kept: only moved
                const Vec3 moved = kit().landmarks.at("vertex").at(shape) - kit().landmarks.at("vertex").at(before);
                const Vec3 nose =
                    kit().landmarks.at("pronasale").at(shape) - kit().landmarks.at("pronasale").at(before);
                CHECK((moved - nose).norm() < 1e-9);
            } else {
                for (const Index v : head->whole) REQUIRE(shape[v] == before[v]);
                for (const Index v : kit().region("foot_l")) REQUIRE(shape[v] == base[v]);
                // the body's neck has followed
                CHECK(apart(shape, before) > 5);
            }
        }
    }
    SECTION("a kit's own head mesh is read, and refused when it lies elsewhere") {
        Scratch scratch;
        std::filesystem::copy(demo("kit"), scratch / "kit", std::filesystem::copy_options::recursive);
        REQUIRE(write_file(scratch / "kit/head.obj", obj_text(head->mesh)));
        auto text = std::string(read_file(scratch / "kit/figure.json")->view());
        std::string list;
        for (const Index v : head->whole) list += (list.empty() ? "" : ",") + std::to_string(v);
        const std::size_t at = text.find('{') + 1;
        text.insert(at, "\"head_mesh\":{\"file\":\"head.obj\",\"vertices\":[" + list + "]},");
        REQUIRE(write_file(scratch / "kit/figure.json", text));
        const auto own = read_base_kit(scratch / "kit");
        REQUIRE(own);
        CHECK(own->head_vertices == head->whole);
        CHECK(head_mesh(*own)->whole == head->whole);
        // what goes out is the kit's head mesh with the whole mesh's normals, and a return in it is known
        SendOptions options;
        options.scope = SendScope::Head;
        const Morph smile = *make_morph(*own, own->expressions.at("smile"), "smile");
        REQUIRE(send_out(*own, options, {{&smile, 1}}, scratch / "head_out.obj"));
        const auto out = read_mesh(scratch / "head_out.obj");
        REQUIRE(out->mesh.vertex_count() == own->head.vertex_count());
        const Points all = vertex_normals(own->expressions.at("smile"), own->triangulation.triangles);
        for (Index c = 0; c < out->mesh.corner_vertex.size(); c += 17)
            REQUIRE(
                (out->mesh.normals[out->mesh.corner_normal[c]] - all[head->whole[out->mesh.corner_vertex[c]]]).norm() <
                2e-5);  // the file has five digits
        const auto checked = check_return(*own, out->mesh, {}, {});
        REQUIRE(checked);
        CHECK(checked->relative);
        CHECK(apart(whole_of(*head, head_of(*head, checked->positions), own->expressions.at("smile")),
                    own->expressions.at("smile")) < 1e-3);
        Mesh moved = head->mesh;
        moved.positions[5].x() += 1;
        REQUIRE(write_file(scratch / "kit/head.obj", obj_text(moved)));
        const auto wrong = read_base_kit(scratch / "kit");
        REQUIRE_FALSE(wrong);
        CHECK(wrong.error().message.find("vertex 5") != std::string::npos);
    }
}

TEST_CASE("Bank: solo, mute, settings A and B, baking, renaming") {
    ProjectState s = new_project(demo_kit());
    const Points& base = kit().mesh.positions;
    for (unsigned k = 1; k <= 3; ++k) add_morph(s, whole("m", k), 0.25 * k);
    CHECK(s.bank[1].morph->name == "m 2");  // no two of one name
    SECTION("solo and mute") {
        s.bank[1].solo = true;
        CHECK(apart(mixed_shape(s), mix_morphs(base, {{s.bank[1].morph.get(), 0.5}})) == 0);
        s.bank[1].muted = true;
        CHECK(apart(mixed_shape(s), base) == 0);
    }
    SECTION("A and B come back to the last bit, and half way is half way") {
        s.mix_a = mix_setting(s);
        const Points a = mixed_shape(s);
        for (BankEntry& e : s.bank) e.amount = 0;
        REQUIRE(set_region_amount(s, {"nose", "m 3", 1}));
        s.mix_b = mix_setting(s);
        const Points b = mixed_shape(s);
        set_between(s, 0);
        CHECK(apart(mixed_shape(s), a) == 0);
        set_between(s, 1);
        CHECK(apart(mixed_shape(s), b) == 0);
        set_between(s, 0.5);
        const Points half = mixed_shape(s);
        for (std::size_t v = 0; v < base.size(); v += 11) REQUIRE((half[v] - 0.5 * (a[v] + b[v])).norm() < 1e-9);
    }
    SECTION("a baked mix is the mix, root and regions included, and can be pushed again") {
        Morph lifted = *s.bank[0].morph;
        lifted.root = Vec3(0, 30, 0);
        replace_morph(s, 0, lifted);
        REQUIRE(set_region_amount(s, {"ears", "m 2", 2}));
        const auto baked = bake_mix(s, "baked");
        REQUIRE(baked);
        CHECK(apart(mix_morphs(base, {{&*baked, 1}}), mixed_shape(s)) < 2e-4);
        CHECK(baked->root.y() == Approx(0.25 * 30));
        for (BankEntry& e : s.bank) e.amount = 0;
        s.region_mix.clear();
        CHECK_FALSE(bake_mix(s, "nothing"));
    }
    SECTION("a new name is found everywhere the old one was asked for") {
        s.mix_a = mix_setting(s);
        REQUIRE(set_region_amount(s, {"nose", "m 3", 1}));
        s.sent.push_back({});
        s.sent.back().morph = "m 3";
        rename_morph(s, 2, "jowls");
        CHECK(s.region_mix[0].morph == "jowls");
        CHECK(s.mix_a->amounts.contains("jowls"));
        CHECK(s.sent.back().morph == "jowls");
        rename_morph(s, 2, "m");
        CHECK(s.bank[2].morph->name == "m 3");
        remove_morph(s, 2);
        CHECK(s.region_mix.empty());
    }
}
