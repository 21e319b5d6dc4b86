"""Independent station counts for place_test.go.

Made with shapely 1.8.5 and pyproj 3.4.1:  python3 counts.py > counts.json
Obstacles are buffered by what is kept free of them and cut out; sides that face a headland's direction within 45 degrees are
buffered by its width in place of the band.
Rows are cut with shapely's intersection on polygon.buffer(-band, 256 segments a quarter circle);
the row-end setback is taken from the row's intersection with the whole polygon first.
"""
import json, math
from pyproj import Transformer
from shapely.geometry import Polygon, LineString, Point
from shapely import affinity

SHAPES = {
  "P1": ([(10,45),(10.003,45),(10.003,45.0012),(10.0015,45.0012),(10.0015,45.002),(10,45.002)],[]),
  "P2 with hole": ([(-60,-32),(-59.9975,-32.0004),(-59.998,-31.9985),(-60.0005,-31.9982)],[[(-59.9992,-31.9996),(-59.9988,-31.9996),(-59.9988,-31.9992),(-59.9992,-31.9992)]]),
  "P3": ([(25,66),(25.006,66.0003),(25.0052,66.0016),(24.9994,66.0011)],[]),
  "star": ([(175.3000,-38.1000),(175.3012,-38.0991),(175.3030,-38.0994),(175.3021,-38.0982),(175.3028,-38.0968),(175.3012,-38.0974),(175.2997,-38.0964),(175.3001,-38.0980),(175.2988,-38.0990),(175.3003,-38.0989)],[]),
  "sliver": ([(175.31,-38.11),(175.3155,-38.1088),(175.3157,-38.1091),(175.3102,-38.1104)],[]),
  "bay": ([(175.32,-38.12),(175.325,-38.12),(175.325,-38.117),(175.3235,-38.117),(175.323,-38.119),(175.322,-38.119),(175.3215,-38.117),(175.32,-38.117)],[[(175.3205,-38.1195),(175.3210,-38.1195),(175.32075,-38.1190)]]),
}
WET={"points":[(10.0005,45.0003),(10.0009,45.0002),(10.0010,45.0007),(10.0006,45.0008)],"area":True,"free":2.5}
LINE={"points":[(10.0001,45.0011),(10.0014,45.0009),(10.0029,45.0010)],"area":False,"free":4}
POLE={"points":[(10.0020,45.0004)],"area":False,"free":7}
TRACK={"points":[(175.3200,-38.1188),(175.3225,-38.1195),(175.3250,-38.1178)],"area":False,"free":3}
CASES = [
  ("P1",0,4,1.5,6,0,"rectangle",0),("P1",45,4,1.5,6,0,"rectangle",0),("P1",90,4,1.5,6,0,"rectangle",0),
  ("P2 with hole",117,4,1.5,6,0,"rectangle",0),("P2 with hole",0,5,5,5,0,"shifted",0),("P3",90,4,1.5,6,0,"rectangle",0),
  ("star",23,5,3,4,0,"rectangle",0),("star",140,0,6,5,0,"square",0),("star",77,0,4,3,0,"triangle",0),
  ("sliver",72,4.5,2,3,8,"rectangle",0),("bay",10,6,3,5,7,"rectangle",0),("bay",100,2.25,0.59,4,8,"twin",0.75),
  ("bay",33,0,5,6,4,"square",0),("star",5,1.2,0.75,2,0,"rectangle",0),
  ("P1",0,4,1.5,6,0,"rectangle",0,{"obstacles":[WET,POLE]}),("P1",45,4,1.5,6,0,"rectangle",0,{"obstacles":[WET,LINE,POLE]}),
  ("P1",70,5,5,3,0,"square",0,{"obstacles":[WET,LINE],"headlands":[{"toward":180,"width":12}]}),
  ("P1",90,4,1.5,6,0,"rectangle",0,{"headlands":[{"toward":0,"width":10},{"toward":270,"width":3}]}),
  ("P3",20,4,1.5,5,0,"rectangle",0,{"headlands":[{"toward":90,"width":14}]}),
  ("bay",10,6,3,5,7,"rectangle",0,{"obstacles":[TRACK],"headlands":[{"toward":180,"width":9}]}),
  ("bay",100,2.25,0.59,4,8,"twin",0.75,{"obstacles":[TRACK]}),
]
def run(name,brg,R,P,h,e,pattern,gap,more={}):
    outer,holes=SHAPES[name]
    lon0=sum(p[0] for p in outer)/len(outer); lat0=sum(p[1] for p in outer)/len(outer)
    t=Transformer.from_crs("EPSG:4326",f"+proj=tmerc +lon_0={lon0!r} +lat_0={lat0!r} +k=1 +ellps=WGS84",always_xy=True)
    pl=lambda r:[t.transform(*p) for p in r]
    o=pl(outer); hs=[pl(x) for x in holes]
    s,c=math.sin(math.radians(brg)),math.cos(math.radians(brg))
    uv=lambda r:[(x*s+y*c,x*c-y*s) for x,y in r]
    poly=Polygon(uv(o),[uv(x) for x in hs])
    core=poly.buffer(-h,resolution=256) if h else poly
    heads=more.get("headlands",[])
    if heads:
        ring=o if Polygon(o).exterior.is_ccw else o[::-1]
        core=poly
        for a,b in zip(ring,ring[1:]+ring[:1]):
            out=math.degrees(math.atan2(b[1]-a[1],-(b[0]-a[0])))  # outward normal of a ring turned left, clockwise from north
            wide=h
            for x in heads:
                if abs(math.remainder(out-x["toward"],360))<=45: wide=x["width"]
            if wide: core=core.difference(LineString(uv([a,b])).buffer(wide,resolution=256))
        for x in hs: core=core.difference(LineString(uv(x+x[:1])).buffer(h,resolution=256))
    for x in more.get("obstacles",[]):
        p=uv(pl(x["points"]))
        g=Polygon(p) if x["area"] else LineString(p) if len(p)>1 else Point(p[0])
        core=core.difference(g.buffer(x["free"],resolution=256))
    u0,v0=uv([o[0]])[0]
    if pattern=="square": R=P
    if pattern=="triangle": R=P*math.sqrt(3)/2
    lines=[0] if pattern!="twin" else [-gap/2,gap/2]
    minu,minv,maxu,maxv=poly.bounds
    pieces=stations=0; metres=0.0
    for j in range(math.floor((minv-v0)/R)-2, math.ceil((maxv-v0)/R)+3):
        for d in lines:
            v=v0+j*R+d
            whole=LineString([(minu-10,v),(maxu+10,v)]).intersection(poly)
            for g in getattr(whole,"geoms",[whole]):
                if g.is_empty or g.geom_type!="LineString": continue
                a,b=sorted((g.coords[0][0],g.coords[-1][0])); a+=e; b-=e
                if b<=a: continue
                part=LineString([(a,v),(b,v)]).intersection(core)
                for q in getattr(part,"geoms",[part]):
                    if q.is_empty or q.geom_type!="LineString": continue
                    x0,x1=sorted((q.coords[0][0],q.coords[-1][0])); L=x1-x0
                    if pattern in("square","triangle","shifted"):
                        base=u0+(P/2 if pattern!="square" and j%2 else 0)
                        n=math.floor((x1-base)/P+1e-6)-math.ceil((x0-base)/P-1e-6)+1
                    else: n=math.floor(L/P+1e-6)+1
                    if n>0: pieces+=1; stations+=n; metres+=L
    return dict(shape=name,outer=outer,holes=holes,bearing=brg,row=R,plant=P,band=h,setback=e,pattern=pattern,gap=gap,obstacles=more.get("obstacles",[]),headlands=heads,pieces=pieces,stations=stations,metres=round(metres,2))
print(json.dumps([run(*c) for c in CASES],indent=1))
